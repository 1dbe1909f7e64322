import './subjects/kinds.js';
import { readFileSync } from 'node:fs';
import { connect } from './db/database.js';
import { migrateTables } from './db/migrate.js';
import { chainEnd, ChainEnds } from './journal/verify/chainEnds.js';
import { verifyHouse } from './journal/verify/verifyHouse.js';

// Looks at a whole house from the terminal. Ends with 1 when something in it is not as it was recorded.
const say = (text: string): void => void process.stdout.write(`${text}\n`);

const brought = process.argv[2] ? chainEnd.parse(JSON.parse(readFileSync(process.argv[2], 'utf8'))) : null;

const keep = process.env['CLEAR_TALLY_KEEP'];

// A house that was brought back may be of an earlier version.
if (process.env['MIGRATE_FIRST']) await migrateTables(process.env['DATABASE_OWNER_URL']!, process.env['MIGRATIONS']!);

const connection = connect(process.env['DATABASE_URL']!, { max: 3, patient: true });

let told = Date.now();

const verified = await verifyHouse({
  connection,
  ownerUrl: process.env['DATABASE_OWNER_URL']!,
  migrations: process.env['MIGRATIONS']!,
  ends: keep ? new ChainEnds(keep) : null,
  brought,
  onProgress: (words) => {
    if (Date.now() - told < 3000) return;
    told = Date.now();
    say(`  ${words} ...`);
  },
});

await connection.close();

const end = verified.newestEnd
  ? `, against ${verified.ends} ${verified.ends === 1 ? 'end' : 'ends'} of the chain kept outside, the newest of ${verified.newestEnd.at.slice(0, 16).replace('T', ' ')} at entry ${verified.newestEnd.seq}`
  : '; no end of the chain was kept outside yet, so rows deleted at its end could not be noticed';

say(`${verified.entries} entries and ${verified.photos} photos were looked at${end}.`);

for (const fault of verified.faults) say(`WRONG  ${fault.words}`);

if (verified.faults.length === 0) say('Everything stands as it was recorded.');
else process.exitCode = 1;
