import { spawn } from 'node:child_process';
import { createServer, type RequestListener } from 'node:http';
import pino from 'pino';
import { connect } from '../src/db/database.js';
import { listen } from '../src/db/live.js';
import { migrateTables } from '../src/db/migrate.js';
import { createApp } from '../src/http/app.js';
import { SignInLimits } from '../src/session/limits.js';
import { bigDownloads, bigQuestions } from './big.js';
import { makeTenYears, tenYearsThere } from './tenYears.js';

// What every read of a page costs in a house of so many past batches.
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const [appUrl, ownerUrl] = [process.env['DATABASE_URL']!, process.env['DATABASE_OWNER_URL']!];
const batches = Number(process.env['BATCHES'] ?? 20_000);
await migrateTables(ownerUrl, 'apps/server/migrations');
const connection = connect(appUrl);
const made = await connection.pool.query("select 1 from lot where code = 'OLD-1'");
const house =
  made.rows.length > 0
    ? await tenYearsThere(connection, batches)
    : await makeTenYears(connection, ownerUrl, batches, say);
const live = listen(appUrl, () => undefined);
const server = createServer(
  createApp(
    {
      db: connection.db,
      reader: connection.reader,
      now: () => new Date(),
      live,
      limits: new SignInLimits(connection.db, connection.pool),
    },
    { log: pino({ level: 'warn' }), deadlineMs: 60_000 },
  ).callback() as RequestListener,
);
await new Promise<void>((resolve) => server.listen(Number(process.env['PORT'] ?? 0), '127.0.0.1', resolve));
const address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
const signIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId: house.owner.id, pin: house.pin }),
});
const cookie = signIn.headers
  .getSetCookie()
  .map((one) => one.split(';')[0])
  .join('; ');
const {
  vessels: [vessel],
} = (await (await fetch(`${address}/api/floor`, { headers: { cookie } })).json()) as {
  vessels: { code: string; batchId: string }[];
};
const reads: readonly (readonly [string, string])[] = [
  ['shelf', '/api/shelf'],
  ['floor', '/api/floor'],
  ['house', '/api/house'],
  ['packable', '/api/packable'],
  ['stock', '/api/stock'],
  ['supplies', '/api/supplies'],
  ['starters', '/api/starters'],
  ['lots', '/api/lots'],
  ['lots, searched', '/api/lots?search=NY2'],
  ['formulas', '/api/formulas'],
  ['making', '/api/making'],
  ['a batch', `/api/making/${vessel!.batchId}`],
  ['timers', '/api/timers'],
  ['meters', '/api/meters'],
  ['a vessel', `/api/watch/${vessel!.code}`],
  ['its book', `/api/lots/${vessel!.code}`],
  ['book of a past vessel', `/api/lots/${house.past.fill}`],
  ['trace of a past jar', `/api/trace/${house.past.run}`],
  ['trace of a salt lot, 400 batches', `/api/trace/${house.past.salt}`],
];
for (const [name, path] of reads) {
  const times: number[] = [];
  let bytes = 0;
  for (let turn = 0; turn < 7; turn += 1) {
    const started = performance.now();
    const reply = await fetch(address + path, { headers: { cookie } });
    const text = await reply.text();
    if (!reply.ok) {
      say(`${name}: ${reply.status} ${text.slice(0, 200)}`);
      break;
    }
    bytes = text.length;
    if (turn > 0) times.push(performance.now() - started);
  }
  times.sort((a, b) => a - b);
  if (times.length > 0)
    say(`GROWTH ${batches} | ${name} | ${times[3]!.toFixed(0)} ms | ${(bytes / 1024).toFixed(0)} KB`);
}
if (batches >= 2000) {
  const get = (path: string): Promise<Response> => fetch(address + path, { headers: { cookie } });
  await bigQuestions(connection, ownerUrl, house, say);
  await bigDownloads(get, house, connection.reader, say);
}
if (process.env['MINUTES']) {
  // In a process of its own: what is measured here is the server's.
  const rss = (): string => `${Math.round(process.memoryUsage().rss / 1_048_576)} MB`;
  say(`SOAK memory at the beginning: ${rss()}`);
  const watching = setInterval(() => say(`SOAK memory: ${rss()}`), 120_000);
  const soaked = spawn(
    process.execPath,
    ['--import', 'tsx', 'apps/server/bench/soak.ts', address, house.owner.id, house.pin],
    { stdio: 'inherit' },
  );
  await new Promise((resolve) => soaked.once('exit', resolve));
  clearInterval(watching);
  say(`SOAK memory at the end: ${rss()}`);
}
if (process.env['STAY']) await new Promise(() => undefined);
server.closeAllConnections();
server.close();
await live.close();
await connection.close();
