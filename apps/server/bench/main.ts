import { jarCode, jarsStanding, lethality } from '@clear-tally/core';
import { spawn } from 'node:child_process';
import { createServer, type RequestListener } from 'node:http';
import pino from 'pino';
import { v7 } from 'uuid';
import { connect } from '../src/db/database.js';
import { listen } from '../src/db/live.js';
import { migrateTables } from '../src/db/migrate.js';
import { createApp } from '../src/http/app.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { verifyHouse } from '../src/journal/verify/verifyHouse.js';
import { SignInLimits } from '../src/session/limits.js';
import { makeBigHouse } from './bigHouse.js';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

const [appUrl, ownerUrl] = [process.env['DATABASE_URL']!, process.env['DATABASE_OWNER_URL']!];

const BATCHES = Number(process.env['BATCHES'] ?? 1000);

await migrateTables(ownerUrl, 'apps/server/migrations');

const connection = connect(appUrl);

async function asOwner(statement: string): Promise<void> {
  const owner = connect(ownerUrl, { max: 1, patient: true });
  await owner.pool.query(statement);
  await owner.close();
}

const house = await makeBigHouse(connection.db, BATCHES, say);

// What the database does by itself within a minute: a house made in seconds is planned as an empty one until then.
await asOwner('analyze');

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
    { log: pino({ level: 'silent' }), proxied: true },
  ).callback() as RequestListener,
);

await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));

const address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;

const signIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId: house.owner.id, pin: house.pin }),
});

const headers = { 'content-type': 'application/json', cookie: signIn.headers.get('set-cookie')!.split(';')[0]! };

async function timed(work: () => Promise<Response>): Promise<number> {
  const started = performance.now();
  const reply = await work();
  const body = await reply.text();
  if (!reply.ok) throw new Error(body);
  return performance.now() - started;
}

const spread = (times: number[]): string => {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!.toFixed(1);
  return `median ${at(0.5)} ms, 95 % ${at(0.95)} ms, worst ${at(1)} ms`;
};

const each = async (count: number, work: (index: number) => Promise<Response>): Promise<number[]> => {
  const times: number[] = [];
  for (let index = 0; index < count; index += 1) times.push(await timed(() => work(index)));
  return times;
};

const trace = (code: string) => fetch(`${address}/api/trace/${code}`, { headers });

let vessel = 0;

const record = () =>
  fetch(`${address}/api/entries`, {
    method: 'POST',
    headers,
    body: JSON.stringify({
      entries: [
        {
          id: v7(),
          kind: 'ph.read',
          happenedAt: new Date().toISOString(),
          by: house.owner.id,
          device: 'bench',
          body: { lotId: house.fillIds[(vessel += 1) % house.fillIds.length]!, ph: 3.7, sample: 'blended' },
        },
      ],
    }),
  });

await each(30, (i) => trace(jarCode(house.runCodes[i % house.runCodes.length]!, 1).text));

say(
  `trace of a jar: ${spread(await each(300, (i) => trace(jarCode(house.runCodes[(i * 37) % house.runCodes.length]!, 1 + (i % 200)).text)))}`,
);

say(`trace of a salt lot: ${spread(await each(100, (i) => trace(house.saltCodes[i % house.saltCodes.length]!)))}`);

const dossier = (page: string) => (index: number) =>
  fetch(`${address}/api/runs/${house.runCodes[(index * 53) % house.runCodes.length]!}/dossier${page}`, { headers });

await each(2, dossier('.pdf'));

say(`dossier of a run: ${spread(await each(20, dossier('')))}; as a PDF: ${spread(await each(20, dossier('.pdf')))}`);

say(`recording, one client: ${spread(await each(300, () => record()))}`);

const recorders = spawn(
  process.execPath,
  [
    '--import',
    'tsx',
    'apps/server/bench/recorders.ts',
    address,
    house.owner.id,
    headers.cookie,
    ...house.fillIds.slice(0, 400),
  ],
  { stdio: 'inherit' },
);

await new Promise((resolve) => recorders.once('exit', resolve));

// Somebody signs in on a tablet that knows them while others try their PIN.
const device = signIn.headers
  .getSetCookie()
  .map((cookie) => cookie.split(';')[0])
  .join('; ');

const signInOnce = () =>
  fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie: device },
    body: JSON.stringify({ personId: house.owner.id, pin: house.pin }),
  });

const guessers = spawn(
  process.execPath,
  ['--import', 'tsx', 'apps/server/bench/guessers.ts', address, house.owner.id, '6'],
  { stdio: 'inherit' },
);

const guessed = new Promise((resolve) => guessers.once('exit', resolve));

await new Promise((resolve) => setTimeout(resolve, 1500));

say(`sign-in while others guess: ${spread(await each(20, signInOnce))}`);

await guessed;

server.closeAllConnections();

server.close();

await live.close();

// A logger's file of a day, and the codes of a large run.
const log = Array.from({ length: 10_000 }, (_, i) => ({ minute: i / 6, celsius: 60 + 25 * Math.sin(i / 500) ** 2 }));
const reckonings = Array.from({ length: 20 }, () => {
  const started = performance.now();
  lethality(log, { refC: 93.33, z: 8.89 });
  return performance.now() - started;
});
const issuings = Array.from({ length: 20 }, () => {
  const started = performance.now();
  for (let serial = 1; serial <= 5000; serial += 1) jarCode('NY26-327-A-01', serial);
  jarsStanding({ first: 1, last: 5000 }, []);
  return performance.now() - started;
});
const middle = (times: number[]): string => times.sort((a, b) => a - b)[times.length >> 1]!.toFixed(1);
const { jarSheet } = await import('../src/papers/jarSheet.js');

const sheetOf = (count: number): Parameters<typeof jarSheet>[0] => ({
  design: {
    paper: {
      pageWidthMm: 210,
      pageHeightMm: 297,
      columns: 2,
      rows: 4,
      widthMm: 99.1,
      heightMm: 67.7,
      leftMm: 4.7,
      topMm: 13.1,
      gapXMm: 2.5,
      gapYMm: 0,
    },
    fields: [],
    symbol: { kind: 'qrcode', mm: 16 },
    leastLetterMm: 1.2,
    gtin: null,
    until: 'bestBefore',
    untilDays: 180,
    producer: 'A yard',
    text: '',
  },
  laid: {
    texts: Array.from({ length: 10 }, (_, line) => ({
      field: 'ingredients',
      words: 'kohlrabi, celeriac, salt, juniper, kept brine',
      bold: line === 0,
      xMm: 2.5,
      yMm: 3 + line * 4,
      points: 8,
    })),
    symbol: { xMm: 80, yMm: 2.5, mm: 16 },
    over: [],
    crossed: [],
  },
  jars: Array.from({ length: count }, (_, i) => {
    const code = jarCode('NY26-327-A-01', i + 1).text;
    return { code, content: `https://house.example/trace/${code}` };
  }),
  codeShown: '',
  skip: 0,
  title: 'Labels',
});

await jarSheet(sheetOf(8));

const sheetStarted = performance.now();

await jarSheet(sheetOf(1000));

say(`1,000 labels, each symbol read back: ${((performance.now() - sheetStarted) / 1000).toFixed(1)} s`);

say(`lethality of a log of 10,000 points: median ${middle(reckonings)} ms; 5,000 jar codes: ${middle(issuings)} ms`);

const chainStarted = performance.now();

const chain = await verifyChain(connection.db);

say(`the chain alone: ${Math.round((chain.entries / (performance.now() - chainStarted)) * 1000)} entries/s`);

const verifyStarted = performance.now();

const verified = await verifyHouse({ connection, ownerUrl, migrations: 'apps/server/migrations', ends: null });

if (verified.faults.length > 0) throw new Error(verified.faults[0]!.words);

say(`verifying ${verified.entries} entries: ${((performance.now() - verifyStarted) / 1000).toFixed(0)} s`);

await connection.close();
