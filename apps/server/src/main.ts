import './subjects/kinds.js';
import { createServer, type RequestListener } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { connect } from './db/database.js';
import { listen } from './db/live.js';
import { migrateTables } from './db/migrate.js';
import { isEmpty } from './demo/isEmpty.js';
import { loadDemoHouse } from './demo/loadDemoHouse.js';
import { deviceAddresses } from './devices/addresses.js';
import { Bench } from './devices/bench.js';
import { createApp } from './http/app.js';
import { faultOf } from './http/explain.js';
import { ChainEnds, endAt, endFaults } from './journal/verify/chainEnds.js';
import { Verification } from './journal/verify/verification.js';
import { Network } from './network/network.js';
import { openLog } from './log.js';
import { SignInLimits } from './session/limits.js';
import { rulesByTheClock } from './subjects/holds/rulesClock.js';

const env = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; start with "npm start"`);
  return value;
};

/** The start command opens the other house then. */
const GO_OVER = 64;

const log = openLog(process.env['CLEAR_TALLY_LOGS']);

const here = dirname(fileURLToPath(import.meta.url));

const migrations = process.env['MIGRATIONS'] ?? join(here, 'migrations');

await migrateTables(env('DATABASE_OWNER_URL'), migrations);

const connection = connect(env('DATABASE_URL'), {
  onError: (error) => log.warn(faultOf(error), 'a database connection was lost'),
});

const keep = process.env['CLEAR_TALLY_KEEP'];

const ends = keep ? new ChainEnds(keep) : undefined;

const known = ends?.newest() ?? null;

const empty = await isEmpty(connection.db);

if (known && empty) {
  process.stderr.write(
    `The database is empty, but on ${known.at.slice(0, 10)} the book of ${known.house} had ${known.seq} entries. Nothing is loaded over it. Bring its database back from a backup, or begin anew with: npm start -- --fresh\n`,
  );
  process.exit(3);
}

if (known)
  for (const { words } of endFaults(ends!.kept(), await endAt(connection.db, ends!.kept())))
    process.stderr.write(`WARNING  ${words} Look at the whole house: npm run verify\n`);

const own = process.env['CLEAR_TALLY_HOUSE'] === 'own';

if (process.env['DEMO'] !== 'off' && !own && empty) {
  process.stdout.write('Loading the demo house ...\n');
  // Tests begin with a round to walk, whatever the time of day.
  const open = process.env['CLEAR_TALLY_DEMO_ROUND'] === 'open';
  const owner = connect(env('DATABASE_OWNER_URL'), { max: 1, patient: true });
  await loadDemoHouse(connection.db, new Date(), {
    ...(open ? { roundWalked: false } : {}),
    // Without its first fifteen months it is there in seconds: most tests ask for no more.
    earlier: process.env['CLEAR_TALLY_DEMO'] !== 'short',
    look: () => owner.pool.query('analyze'),
  });
  await owner.close();
}

const live = listen(env('DATABASE_URL'), (error) => log.warn(faultOf(error), 'listening again'));

const rules = rulesByTheClock(connection.db, {
  now: () => new Date(),
  onFault: (error) => log.warn(faultOf(error), 'the rules could not look'),
});

const devices = deviceAddresses(process.env['CLEAR_TALLY_DEVICES']);

const bench = devices.length > 0 ? new Bench(devices) : undefined;

const address = process.env['CLEAR_TALLY_ADDRESS'];

await ends?.daily(connection.db, new Date());

const endings = setInterval(
  () =>
    void ends
      ?.daily(connection.db, new Date())
      .catch((error: unknown) => log.warn(faultOf(error), 'the end of the chain was not written down')),
  3_600_000,
);

// The look at the whole house takes its time: the limits of who works at a bench are not its own.
const looking = connect(env('DATABASE_URL'), {
  max: 3,
  patient: true,
  onError: (error) => log.warn(faultOf(error), 'a database connection was lost'),
});

const verification = new Verification(
  { connection: looking, ownerUrl: env('DATABASE_OWNER_URL'), migrations, ends: ends ?? null },
  (error) => log.error(faultOf(error), 'the house could not be verified'),
);

const limits = new SignInLimits(connection.db, connection.pool);

const host = process.env['CLEAR_TALLY_HOST'];

const [cert, key] = [process.env['CLEAR_TALLY_CERT'], process.env['CLEAR_TALLY_KEY']];

const network = host
  ? new Network(
      {
        host,
        port: Number(env('CLEAR_TALLY_HOST_PORT')),
        folder: env('CLEAR_TALLY_TLS'),
        ...(cert && key ? { brought: { cert, key } } : {}),
      },
      () => new Date(),
      (error) => log.error(faultOf(error), 'the certificate could not be made anew'),
    )
  : undefined;

const app = createApp(
  {
    db: connection.db,
    reader: connection.reader,
    now: () => new Date(),
    live,
    bench,
    limits,
    verification,
    // Whoever started this server opens the other house; without a start command there is none.
    ...(process.env['CLEAR_TALLY_HOUSE'] ? { goOver: () => void stop(GO_OVER) } : {}),
    ...(process.env['CLEAR_TALLY_BACKUPS']
      ? { backups: { folder: process.env['CLEAR_TALLY_BACKUPS'], which: own ? ('own' as const) : ('demo' as const) } }
      : {}),
    ...(network ? { network } : {}),
    ...(ends ? { ends } : {}),
    ...(address ? { address: new URL(address).origin } : {}),
  },
  { log, webRoot: process.env['WEB_ROOT'], proxied: process.env['CLEAR_TALLY_PROXY'] === 'yes' },
);

/** What somebody waits for an answer to. */
let asked = 0;

const answer = app.callback() as RequestListener;

const listener: RequestListener = (request, response) => {
  asked += 1;
  response.once('close', () => (asked -= 1));
  answer(request, response);
};

const server = createServer(listener);

// A line that is closed after five seconds of quiet is closed under whoever writes on it just then.
server.keepAliveTimeout = 65_000;

server.headersTimeout = 70_000;

await network?.serve(listener).catch((error: unknown) => {
  process.stderr.write(
    `The house cannot be served to other devices at ${host}: ${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exit(4);
});

server.listen(Number(env('PORT')), '127.0.0.1', () => process.stdout.write(`listening ${env('PORT')}\n`));

let stopping = false;

/** What is being recorded or answered is finished; nothing new is taken. */
const stop = async (status = 0): Promise<void> => {
  if (stopping) return;
  stopping = true;
  clearInterval(endings);
  network?.close();
  server.close();
  await live.close();
  // Lines on which nobody waits for anything are no reason to wait: browsers keep some open, and open some beforehand.
  for (const until = Date.now() + 8000; asked > 0 && Date.now() < until;)
    await new Promise((resolve) => setTimeout(resolve, 25));
  server.closeAllConnections();
  network?.closeAll();
  bench?.close();
  await rules.stop().catch(() => undefined);
  await ends?.write(connection.db, new Date()).catch(() => null);
  await looking.close();
  await connection.close();
  process.exit(status);
};

process.on('SIGINT', () => void stop());

process.on('SIGTERM', () => void stop());
