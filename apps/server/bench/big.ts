import { createInterface } from 'node:readline';
import { createReadStream, mkdtempSync, rmSync } from 'node:fs';
import { createWriteStream } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { once } from 'node:events';
import { sql } from 'drizzle-orm';
import { jarCode } from '@clear-tally/core';
import { type Connection, rows } from '../src/db/database.js';
import { lotByCode } from '../src/lots/lotByCode.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { tallyOf } from '../src/lots/tallyOf.js';
import { readCause } from '../src/subjects/tracing/readCause.js';
import { readTrace } from '../src/subjects/tracing/readTrace.js';
import type { TenYears } from './tenYears.js';

const spread = (times: readonly number[]): { median: number; p95: number } => {
  const sorted = [...times].sort((a, b) => a - b);
  return { median: sorted[Math.floor(sorted.length / 2)]!, p95: sorted[Math.floor(sorted.length * 0.95)]! };
};

/** A thing done again and again, at a server that has been up for a while, by number; how long it takes. */
async function timed(
  turns: number,
  work: (turn: number) => Promise<unknown>,
): Promise<{ median: number; p95: number }> {
  const times: number[] = [];
  for (let turn = -Math.max(3, turns); turn < turns; turn += 1) {
    const started = performance.now();
    await work(Math.abs(turn));
    if (turn >= 0) times.push(performance.now() - started);
  }
  return spread(times);
}

/** The questions of the trace desk in the largest house, against one read by primary key, and against the plain ways. */
export async function bigQuestions(
  connection: Connection,
  ownerUrl: string,
  house: TenYears,
  say: (text: string) => void,
): Promise<void> {
  const { reader, pool } = connection;
  const many = house.batches;
  // Here and there over the ten years, the same in every run.
  const some = (turn: number): number => 1 + ((turn * 7919) % many);
  const codesOf = async (kind: string): Promise<string[]> =>
    (
      await pool.query<{ code: string }>(
        'select code from lot where kind = $1 and supplier_lot_code is null order by seq limit $2',
        [kind, many * 4],
      )
    ).rows.map(({ code }) => code);
  const [runs, fills] = [await codesOf('run'), await codesOf('fill')];
  const ids = (await pool.query<{ id: string }>("select id from lot where kind = 'run' order by id limit 500")).rows;
  const key = await timed(300, (turn) => pool.query('select * from lot where id = $1', [ids[turn % ids.length]!.id]));
  const tell = (name: string, { median, p95 }: { median: number; p95: number }): void =>
    say(
      `BIG ${many} | ${name} | median ${median.toFixed(1)} ms | 95 % ${p95.toFixed(1)} ms | ${(median / key.median).toFixed(1)} reads by key`,
    );
  tell('one row by its key', key);
  tell(
    'trace of a jar',
    await timed(100, (turn) => readTrace(reader, jarCode(runs[some(turn) * 4 - 2]!, 1 + (turn % 60)).text)),
  );
  tell('trace of a supply lot', await timed(100, (turn) => readTrace(reader, `OLD-${some(turn)}`)));
  tell(
    'tally of a vessel',
    await timed(100, async (turn) => tallyOf(reader, await lotByCode(reader, fills[some(turn) * 4 - 2]!))),
  );
  tell('worst salt lot, 400 batches', await timed(7, () => readTrace(reader, house.past.salt)));
  const jars = Array.from({ length: 20 }, (_, i) => jarCode(runs[Math.floor(many * 2) + i * 12]!, 7).text);
  tell('shared cause of 20 jars', await timed(7, () => readCause(reader, jars)));
  await wholeChain(connection, house, say);
  await plainWays(connection, ownerUrl, house, say);
}

/** Every line of the book against its hash, and each against the one before. */
async function wholeChain({ db }: Connection, { batches }: TenYears, say: (text: string) => void): Promise<void> {
  const started = performance.now();
  const { entries, fault } = await verifyChain(db);
  if (fault) throw new Error(`the chain breaks at ${fault.seq}: ${fault.words}`);
  const seconds = (performance.now() - started) / 1000;
  say(
    `BIG ${batches} | chain of ${entries} entries verified | ${seconds.toFixed(1)} s | ${Math.round(entries / seconds)} entries/s`,
  );
}

/** The same question without a ledger: the years as files, read line by line; and the same table without its indexes. */
async function plainWays(
  { pool, reader }: Connection,
  ownerUrl: string,
  house: TenYears,
  say: (text: string) => void,
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'plain-'));
  const { default: pg } = await import('pg');
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  try {
    const years = await csvByYear(pool, folder);
    const { id } = await lotByCode(reader, house.past.run);
    const started = performance.now();
    const found = await walkFiles(years, id);
    say(
      `BIG ${house.batches} | a jar's way back through ${years.length} CSV files | ${(performance.now() - started).toFixed(0)} ms | ${found} movements`,
    );
    await owner.query('drop table if exists plain_movement; create table plain_movement as select * from movement');
    const plain = performance.now();
    await owner.query(
      `with recursive walk(lot, at, seq) as (
         select $1::uuid, 'infinity'::timestamptz, 9223372036854775807::bigint
         union select m.from_lot, m.at, m.seq from walk w join plain_movement m on m.to_lot = w.lot and (m.at, m.seq) <= (w.at, w.seq)
         where w.lot is not null and m.from_lot is not null and not m.void and not exists (select 1 from plain_movement c where c.cancels = m.id))
       select count(*) from walk`,
      [id],
    );
    say(
      `BIG ${house.batches} | a jar's way back in the same table without its indexes | ${(performance.now() - plain).toFixed(0)} ms`,
    );
  } finally {
    await owner.query('drop table if exists plain_movement');
    await owner.end();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function csvByYear(pool: Connection['pool'], folder: string): Promise<string[]> {
  const years = (
    await pool.query<{ y: number }>('select distinct extract(year from at)::int as y from movement order by 1')
  ).rows;
  const files: string[] = [];
  for (const { y } of years) {
    const file = join(folder, `${y}.csv`);
    const out = createWriteStream(file);
    const { rows: lines } = await pool.query<{ line: string }>(
      "select concat_ws(',', extract(epoch from at), seq, from_lot, to_lot, milligrams) as line from live_movement where extract(year from at) = $1 and from_lot is not null and to_lot is not null order by at, seq",
      [y],
    );
    for (const { line } of lines) out.write(`${line}\n`);
    out.end();
    await once(out, 'finish');
    files.push(file);
  }
  return files;
}

/** Backward, newest file first, each read until it gives nothing new. */
async function walkFiles(files: readonly string[], lot: string): Promise<number> {
  const before = new Map<string, number>([[lot, Infinity]]);
  const seen = new Set<string>();
  for (const file of [...files].reverse())
    for (let fresh = true; fresh;) {
      fresh = false;
      for await (const line of createInterface({ input: createReadStream(file) })) {
        const [at, , from, to] = line.split(',');
        if (seen.has(line) || !before.has(to!) || Number(at) > before.get(to!)!) continue;
        seen.add(line);
        fresh = true;
        before.set(from!, Math.max(before.get(from!) ?? -Infinity, Number(at)));
      }
    }
  return seen.size;
}

/** Records of a year as a workbook, over the line, and what the server holds meanwhile; a recall of the worst salt lot. */
export async function bigDownloads(
  get: (path: string) => Promise<Response>,
  house: TenYears,
  reader: Connection['reader'],
  say: (text: string) => void,
): Promise<void> {
  const [{ day }] = (await rows<{ day: string }>(
    reader,
    sql`select (min(at) + interval '4 years')::date::text as day from movement`,
  )) as [{ day: string }];
  const to = `${Number(day.slice(0, 4)) + 1}${day.slice(4)}`;
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);
  const started = performance.now();
  const reply = await get(`/api/records/transformation.xlsx?from=${day}&to=${to}`);
  let bytes = 0;
  for await (const part of reply.body as unknown as AsyncIterable<Uint8Array>) bytes += part.length;
  clearInterval(watch);
  say(
    `BIG ${house.batches} | what was made in a year, XLSX | ${((performance.now() - started) / 1000).toFixed(1)} s | ${(bytes / 1_048_576).toFixed(1)} MB | server ${Math.round((most - before) / 1_048_576)} MB more than before`,
  );
  const recalling = await timed(5, async () => {
    const ahead = await get(`/api/recall-ahead?code=${house.past.salt}&scope=descendants`);
    if (!ahead.ok) throw new Error(await ahead.text());
    await ahead.text();
  });
  say(
    `BIG ${house.batches} | recall of the worst salt lot, every jar by place | median ${recalling.median.toFixed(0)} ms`,
  );
}
