import { createServer, type RequestListener } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { connect } from './db/database.js';
import { listen } from './db/live.js';
import { migrateTables } from './db/migrate.js';
import { loadDemoHouse } from './demo/loadDemoHouse.js';
import { deviceAddresses } from './devices/addresses.js';
import { Bench } from './devices/bench.js';
import { rulesByTheClock } from './record/rulesClock.js';
import { createApp } from './http/app.js';
import { faultOf } from './http/problems.js';
import { SignInLimits } from './session/limits.js';
import { isEmpty } from './demo/isEmpty.js';

const env = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; start with "npm start"`);
  return value;
};

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });
const here = dirname(fileURLToPath(import.meta.url));
await migrateTables(env('DATABASE_OWNER_URL'), process.env['MIGRATIONS'] ?? join(here, 'migrations'));
const connection = connect(env('DATABASE_URL'), { onError: (error) => log.warn({ err: error }, 'a database connection was lost') });
if (process.env['DEMO'] !== 'off' && (await isEmpty(connection.db))) {
  process.stdout.write('Loading the demo house ...\n');
  await loadDemoHouse(connection.db, new Date());
}
const live = listen(env('DATABASE_URL'), (error) => log.warn({ err: error }, 'listening again'));
const rules = rulesByTheClock(connection.db, { now: () => new Date(), onFault: (error) => log.warn(faultOf(error), 'the rules could not look') });
const devices = deviceAddresses(process.env['CLEAR_TALLY_DEVICES']);
const bench = devices.length > 0 ? new Bench(devices) : undefined;
const address = process.env['CLEAR_TALLY_ADDRESS'];
const limits = new SignInLimits(connection.db, connection.pool);
const app = createApp({ db: connection.db, now: () => new Date(), live, bench, limits, ...(address ? { address: new URL(address).origin } : {}) }, { log, webRoot: process.env['WEB_ROOT'], proxied: process.env['CLEAR_TALLY_PROXY'] === 'yes' });
const listener = app.callback() as RequestListener;
const server = createServer(listener);
server.listen(Number(env('PORT')), '127.0.0.1', () => process.stdout.write(`listening ${env('PORT')}\n`));

let stopping = false;
const stop = async (): Promise<void> => {
  if (stopping) return;
  stopping = true;
  const looked = rules.stop();
  server.closeAllConnections();
  server.close();
  bench?.close();
  await looked.catch(() => undefined);
  await live.close();
  await connection.close();
  process.exit(0);
};
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
