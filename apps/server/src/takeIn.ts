import './subjects/kinds.js';
import { asc, eq } from 'drizzle-orm';
import { randomInt } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { connect } from './db/database.js';
import { migrateTables } from './db/migrate.js';
import { person } from './db/schema/house.js';
import { takeHouseIn } from './journal/file/takeHouseIn.js';
import { pinFault } from './session/pin.js';
import { setPin } from './session/session.js';

// Takes a whole house in from its file, at the terminal of an empty one. PINs never leave a house: its first owner gets
// a new one, said here, and changes it at once.
const say = (text: string): void => void process.stdout.write(`${text}\n`);

await migrateTables(process.env['DATABASE_OWNER_URL']!, process.env['MIGRATIONS']!);
const connection = connect(process.env['DATABASE_URL']!, { max: 3, patient: true });
const owner = connect(process.env['DATABASE_OWNER_URL']!, { max: 1, patient: true });
let told = Date.now();
try {
  const progress = (many: number): void => {
    if (Date.now() - told < 3000) return;
    told = Date.now();
    say(`  ${many} entries ...`);
  };
  const file = readFileSync(process.argv[2]!, 'utf8');
  const { house, entries } = await takeHouseIn(connection.db, file, progress, () => owner.pool.query('analyze'));
  say(`${house}: ${entries} entries came in. All of it is looked at now.`);
  const [first] = await connection.db
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(eq(person.role, 'owner'))
    .orderBy(asc(person.id))
    .limit(1);
  if (first) {
    const pin = newPin();
    await setPin(connection.db, first.id, pin);
    say(`${first.name} signs in with ${pin} and chooses another PIN; the others get theirs from an owner.`);
  }
} catch (error) {
  say((error as Error).message);
  process.exitCode = 1;
} finally {
  await Promise.all([connection.close(), owner.close()]);
}

/** One that nobody would try first. */
function newPin(): string {
  for (;;) {
    const pin = String(randomInt(100_000, 1_000_000));
    if (pinFault(pin) === null) return pin;
  }
}
