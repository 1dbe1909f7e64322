import { entrySchema } from '@clear-tally/contract';
import type { Connection } from '../src/db/database.js';
import { makeBigHouse, type BigHouse } from './bigHouse.js';

export interface TenYears extends BigHouse {
  readonly batches: number;
  /** A jar, a salt lot used in 400 batches, a supply, a vessel and a batch of the past, by code. */
  readonly past: { readonly run: string; readonly salt: string; readonly fill: string };
}

/**
 * Lines of the book of one past batch, by what comes when: its delivery, start, produce, salt, six flavourings, kept
 * brine, four vessels; of each vessel ten pH, three temperatures and thirteen losses; four runs.
 */
const AT = { delivery: 0, start: 1, produce: 2, salt: 3, added: 4, brine: 10, filled: 11, tended: 15, packed: 119 };
const LINES = 123;
const PER_BATCH_HOURS = 4.38;
const PER_SALT = 400;
const PER_FLAVOUR = 100;
/** Kept brine comes from the batch so many before, in chains of six. */
const BRINE_FROM = 40;
const GENERATIONS = 7;

/** Rows of a table of the past, put together by the database itself. */
type Fill = (name: string, sql: string) => Promise<void>;

/**
 * A house of ten years: founded through the write path; then `batches` that are past, written by the database in sets
 * (the write path would take a day), every line of the book valid and chained to the one before; then 44 batches made
 * through the write path again, with twenty live vessels.
 * 20,000 batches are about 1.5 million movements, 2.5 million journal entries, a million readings and 5 million jars.
 */
export async function makeTenYears(
  connection: Connection,
  ownerUrl: string,
  batches: number,
  say: (text: string) => void,
): Promise<TenYears> {
  const { default: pg } = await import('pg');
  const past = async (before: Date): Promise<void> => {
    const client = new pg.Client({ connectionString: ownerUrl });
    await client.connect();
    const fill: Fill = async (name, sql) => {
      const started = Date.now();
      await client.query(sql);
      say(`  ${name}: ${((Date.now() - started) / 1000).toFixed(0)} s`);
    };
    await client.query('begin');
    await plan(fill, batches, before);
    // What the database does line by line (telling who looks, keeping balances) is done once, at the end.
    await client.query('alter table journal disable trigger user; alter table movement disable trigger user');
    await writeBook(fill);
    await writeLots(fill);
    await writeMovements(fill);
    await writeBalances(fill);
    await writeWhatWasSeen(fill);
    await client.query('commit');
    await client.query('alter table journal enable trigger user; alter table movement enable trigger user');
    await fill('statistics', 'vacuum analyze');
    await client.end();
  };
  const pastDays = Math.ceil((batches * PER_BATCH_HOURS) / 24) + 30;
  const house = await makeBigHouse(connection.db, 44, () => undefined, { live: 20, pastDays, past });
  await everyLineIsValid(connection);
  return { ...house, batches, past: await pastOf(connection, batches) };
}

/** Which batch began when, with which number of the book, of which lots: p; the house's own things: o and v. */
async function plan(fill: Fill, batches: number, before: Date): Promise<void> {
  const salts = Math.floor(batches / PER_SALT) + 1;
  const flavours = Math.floor(batches / PER_FLAVOUR) + 7;
  await fill(
    'plan',
    // An id made of a name, of the form that ids have.
    `create function pg_temp.uid(name text) returns uuid language sql immutable as
      $$ select overlay(overlay(md5(name) placing '4' from 13) placing '8' from 17)::uuid $$;
    create temp table o as select
      (select id from person where role = 'owner' order by id desc limit 1) as who,
      (select id from material where kind = 'produce' limit 1) as shred,
      (select id from material where kind = 'salt' limit 1) as salt,
      (select id from supplier limit 1) as supplier,
      (select formula_id from formula limit 1) as formula,
      (select max(seq) from journal) as last_seq,
      (select hash from journal order by seq desc limit 1) as last_hash,
      date_trunc('hour', timestamptz '${before.toISOString()}') - ${batches} * interval '${PER_BATCH_HOURS} hours' - interval '13 days' as begins;
    create temp table v as select id, row_number() over (order by tag) - 1 as number from vessel;
    create temp table bulk as
      select 'salt' as what, n, pg_temp.uid('salt' || n) as id, 'SALT-' || n as code, 600000 as grams, o.last_seq + 1 + n as seq, o.begins as at, o.salt as material, o.supplier from o, generate_series(0, ${salts - 1}) n
      union all select 'flavour', n, pg_temp.uid('fl' || n), 'FL-' || n, 600000, o.last_seq + 1 + ${salts} + n, o.begins, o.shred, o.supplier from o, generate_series(0, ${flavours - 1}) n;
    create temp table days as select n, o.begins + interval '1 day' + (n - 1) * interval '${PER_BATCH_HOURS} hours' as at from o, generate_series(1, ${batches}) n;
    create temp table p as select n, o.last_seq + 1 + ${salts + flavours} + (n - 1)::bigint * ${LINES} as seq,
      days.at, to_char(days.at at time zone 'UTC', '"NY"YY-DDD-') || chr(64 + (row_number() over (partition by (days.at at time zone 'UTC')::date order by n))::int) as code,
      pg_temp.uid('b' || n) as batch, pg_temp.uid('s' || n) as supply, pg_temp.uid('salt' || n / ${PER_SALT}) as salt,
      case when n > ${BRINE_FROM} and ((n - 1) / ${BRINE_FROM}) % ${GENERATIONS} <> 0 then pg_temp.uid('f' || n - ${BRINE_FROM} || '-1') end as donor
      from o, days;
    create temp table f as select p.n, p.code, i, p.seq, p.at, p.batch, pg_temp.uid('f' || p.n || '-' || i) as id, pg_temp.uid('r' || p.n || '-' || i) as run, v.id as vessel
      from p, generate_series(1, 4) i, v where v.number = (p.n * 4 + i) % (select count(*) from v);
    create temp table tended as select f.*, s, f.seq + ${AT.tended} + (f.i - 1) * 26 + s as line, f.at + (6 + s * 14) * interval '1 hour' as seen from f, generate_series(0, 12) s;
    analyze p; analyze f; analyze tended`,
  );
}

const json = (pairs: Readonly<Record<string, string>>): string =>
  `json_build_object(${Object.entries(pairs)
    .map(([name, value]) => `'${name}', ${value}`)
    .join(', ')})`;

/** Every line with its body in canonical order, then the chain over all of them, one after the other. */
async function writeBook(fill: Fill): Promise<void> {
  const received = (lot: string, material: string, grams: string, theirs: string): string =>
    json({
      condition: 'null',
      grams,
      lotId: lot,
      materialId: material,
      supplierId: 'o.supplier',
      supplierLotCode: theirs,
      useBy: 'null',
    });
  await fill(
    'lines of the book',
    `create temp table line as
    select seq, at, 'supply.receive' as kind, ${received('b.id', 'b.material', 'b.grams', "'L-' || b.code")} as body from bulk b, o
    union all select seq + ${AT.delivery}, p.at, 'supply.receive', ${received('p.supply', 'o.shred', '80000', "'F-' || p.n")} from p, o
    union all select seq + ${AT.start}, p.at, 'batch.start', ${json({ batchId: 'batch', formulaId: 'o.formula', plan: json({ from: "'trimmed'", trimmedGrams: '66000' }), version: '1' })} from p, o
    union all select seq + ${AT.produce}, p.at + interval '1 hour', 'produce.weigh', ${json({ batchId: 'batch', supplyLotId: 'supply', trimWasteGrams: '14000', trimmedGrams: '66000' })} from p
    union all select seq + ${AT.salt}, p.at + interval '2 hours', 'salt.weigh', ${json({ alreadyIn: 'false', batchId: 'batch', grams: '1452', saltLotId: 'salt' })} from p
    union all select seq + ${AT.added} + i, p.at + interval '2 hours', 'ingredient.add', ${json({ batchId: 'batch', fromLotId: `pg_temp.uid('fl' || (p.n / ${PER_FLAVOUR} + i))`, grams: '20 + i' })} from p, generate_series(0, 5) i
    union all select seq + ${AT.brine}, p.at + interval '3 hours', case when donor is null then 'temperature.read' else 'ingredient.add' end,
      case when donor is null then ${json({ celsius: '14.2', lotId: 'batch' })} else ${json({ batchId: 'batch', fromLotId: 'donor', grams: '500' })} end from p
    union all select seq + ${AT.filled} + i - 1, f.at + interval '4 hours', 'vessel.fill', ${json({ batchId: 'batch', brine: 'null', fillLotId: 'id', grams: '16800', vesselId: 'vessel' })} from f
    union all select line, seen, case when s < 10 then 'ph.read' else 'temperature.read' end,
      case when s < 10 then ${json({ lotId: 'id', ph: 'trim_scale(5.2 - s * 0.15)', sample: "'blended'" })} else ${json({ celsius: '14.2', lotId: 'id' })} end from tended
    union all select line + 13, seen + interval '1 hour', 'loss.record', ${json({ grams: '30 + s', lotId: 'id', note: 'null', sink: "case s % 3 when 0 then 'sample' when 1 then 'gas' else 'overflow' end" })} from tended
    union all select seq + ${AT.packed} + i - 1, f.at + interval '9 days', 'pack.run', ${json({
      from: `json_build_array(${json({ empties: 'true', fillLotId: 'id', grams: '15600', restReason: "'brine poured away'" })})`,
      jars: `json_build_array(${json({ count: '63', netGrams: '245', sizeMl: '250' })})`,
      leftoverGrams: '0',
      runLotId: 'run',
      sampleGrams: '0',
      tallyReason: "'brine poured away'",
      wasteGrams: '0',
    })} from f`,
  );
  await fill(
    'chained',
    `do $$ declare
      one record; who uuid; entry_text text; before text; own text; said text; entry_id uuid;
    begin
      select o.who, o.last_hash into who, before from o;
      for one in select * from line order by seq loop
        said := to_char(one.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"');
        entry_id := pg_temp.uid('j' || one.seq);
        -- PostgreSQL writes ", " and " : " between what has none in canonical JSON; no text of these holds either.
        entry_text := '{"body":' || replace(replace(one.body::text, ' : ', ':'), ', ', ',') || ',"by":"' || who || '","device":"bench","happenedAt":"' || said || '","id":"' || entry_id || '","kind":"' || one.kind || '"}';
        own := encode(sha256(convert_to(concat_ws(E'\\n', before, one.seq, said, entry_text, '{}'), 'UTF8')), 'hex');
        insert into journal (seq, entry_id, kind, happened_at, recorded_at, by, entry, facts, previous_hash, hash)
          values (one.seq, entry_id, one.kind, one.at, one.at, who, entry_text, '{}', before, own);
        before := own;
      end loop;
    end $$`,
  );
}

async function writeLots(fill: Fill): Promise<void> {
  const columns =
    'id, code, code_key, kind, name, origin, at, seq, batch_id, formula_id, formula_version, rules, material_id, supplier_id, supplier_lot_code, vessel_id, closed_at, plan';
  await fill(
    'lots',
    `insert into lot (${columns})
    select id, code, replace(code, '-', ''), 'supply', initcap(what), 'received', at, seq, null::uuid, null::uuid, null::int, null::jsonb, material, supplier, 'L-' || code, null::uuid, null::timestamptz, null::jsonb from bulk
    union all select supply, 'OLD-' || n, 'OLD' || n, 'supply', 'Shred', 'received', p.at, p.seq, null, null, null, null, o.shred, o.supplier, 'F-' || n, null, null, null from p, o
    union all select batch, code, replace(code, '-', ''), 'batch', 'Shred', 'made', p.at, p.seq + ${AT.start}, batch, o.formula, 1, '{}', null, null, null, null, p.at + interval '5 hours', '{"from":"trimmed","trimmedGrams":66000}' from p, o
    union all select f.id, code || '-V' || i, replace(code, '-', '') || 'V' || i, 'fill', 'Shred', 'made', f.at + interval '4 hours', f.seq + ${AT.filled} + i - 1, batch, o.formula, 1, null, null, null, null, vessel, f.at + interval '9 days', null from f, o
    union all select run, code || '-0' || i, replace(code, '-', '') || '0' || i, 'run', 'Shred', 'made', f.at + interval '9 days', f.seq + ${AT.packed} + i - 1, batch, o.formula, 1, null, null, null, null, null, null, null from f, o`,
  );
}

async function writeMovements(fill: Fill): Promise<void> {
  const row = (line: string, extra = '0'): string =>
    `(${line}) * 1000 + ${extra}, ${line}, pg_temp.uid('j' || (${line}))`;
  await fill(
    'movements',
    `insert into movement (id, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams)
    select ${row('seq')}, 'supply.receive', at, null::uuid, 'received', id, null, grams * 1000 from bulk
    union all select ${row(`seq + ${AT.delivery}`)}, 'supply.receive', at, null, 'received', supply, null, 80000000 from p
    union all select ${row(`seq + ${AT.produce}`)}, 'produce.weigh', at + interval '1 hour', supply, null, batch, null, 66000000 from p
    union all select ${row(`seq + ${AT.produce}`, '1')}, 'produce.weigh', at + interval '1 hour', supply, null, null, 'trim', 14000000 from p
    union all select ${row(`seq + ${AT.salt}`)}, 'salt.weigh', at + interval '2 hours', salt, null, batch, null, 1452000 from p
    union all select ${row(`seq + ${AT.added} + i`)}, 'ingredient.add', at + interval '2 hours', pg_temp.uid('fl' || (n / ${PER_FLAVOUR} + i)), null, batch, null, 20000 + i * 1000 from p, generate_series(0, 5) i
    union all select ${row(`seq + ${AT.brine}`)}, 'ingredient.add', at + interval '3 hours', donor, null, batch, null, 500000 from p where donor is not null
    union all select ${row(`seq + ${AT.filled} + i - 1`)}, 'vessel.fill', at + interval '4 hours', batch, null, id, null, 16800000 from f
    union all select ${row('line + 13')}, 'loss.record', seen + interval '1 hour', id, null, null, case s % 3 when 0 then 'sample' when 1 then 'gas' else 'overflow' end, 30000 + s * 1000 from tended
    union all select ${row(`seq + ${AT.packed} + i - 1`)}, 'pack.run', at + interval '9 days', id, null, run, null, 15600000 from f
    union all select ${row(`seq + ${AT.packed} + i - 1`, '1')}, 'pack.run', at + interval '9 days', id, null, null, 'packingWaste', 200000 from f`,
  );
}

/** What came into each lot and went out of it, as a movement by itself would have it kept. */
const writeBalances = (fill: Fill): Promise<void> =>
  fill(
    'balances',
    `insert into lot_balance (lot_id, in_milligrams, out_milligrams, kind)
    select l.id, coalesce(i.mg, 0), coalesce(o.mg, 0), l.kind from lot l
    left join (select to_lot, sum(milligrams) as mg from live_movement group by 1) i on i.to_lot = l.id
    left join (select from_lot, sum(milligrams) as mg from live_movement group by 1) o on o.from_lot = l.id
    where i.to_lot is not null or o.from_lot is not null`,
  );

async function writeWhatWasSeen(fill: Fill): Promise<void> {
  await fill(
    'readings',
    `insert into reading (entry_id, root_entry_id, seq, lot_id, kind, value, sample, at, for_release)
    select pg_temp.uid('j' || line), pg_temp.uid('j' || line), line, id, case when s < 10 then 'ph' else 'temperature' end, case when s < 10 then 5.2 - s * 0.15 else 14.2 end, case when s < 10 then 'blended' end, seen, s < 10 from tended`,
  );
  await fill(
    'pages of the book',
    `insert into entry_lot (lot_id, seq)
    select id, seq from bulk
    union all select supply, seq + k from p, unnest(array[${AT.delivery}, ${AT.produce}]) k
    union all select batch, seq + k from p, generate_series(${AT.start}, ${AT.tended - 1}) k
    union all select salt, seq + ${AT.salt} from p
    union all select donor, seq + ${AT.brine} from p where donor is not null
    union all select id, seq + ${AT.filled} + i - 1 from f
    union all select id, line + k from tended, unnest(array[0, 13]) k
    union all select lot, seq + ${AT.packed} + i - 1 from f, unnest(array[id, run]) lot`,
  );
  await fill(
    'checks',
    `insert into check_mark (entry_id, lot_id, key, what, quiet, by, at, seq) select pg_temp.uid('c' || f.id || s), f.id, 'look', 'look', true, o.who, f.at + s * interval '1 day', f.seq + ${AT.tended} from f, o, generate_series(1, 8) s`,
  );
  await fill(
    'jars',
    `insert into jar_range (run_lot_id, first_serial, last_serial, size_ml, net_milligrams) select run, 1, 63, 250, 245000 from f`,
  );
  await fill(
    'holds',
    `insert into hold (entry_id, lot_id, reason, rule, placed_at, lifted_at, lift_reason) select pg_temp.uid('h' || f.id), f.id, 'Looked at again', 'person', f.at + interval '1 day', f.at + interval '2 days', 'in order' from f where f.n % 20 = 0 and f.i = 1`,
  );
}

/** What was written in sets is what somebody could have recorded: lines here and there over the years, by the contract. */
async function everyLineIsValid({ pool }: Connection): Promise<void> {
  const { rows } = await pool.query<{ entry: string }>(
    'select entry from journal where seq % greatest(1, (select count(*) from journal) / 3000) = 0 or seq <= 600',
  );
  for (const { entry } of rows) entrySchema.parse(JSON.parse(entry));
}

/** Codes of the middle of the past. */
async function pastOf({ pool }: Connection, batches: number): Promise<TenYears['past']> {
  const middle = Math.floor(batches / 2);
  const codeOf = async (kind: string, place: number): Promise<string> =>
    (
      await pool.query<{ code: string }>('select code from lot where kind = $1 order by seq offset $2 limit 1', [
        kind,
        place,
      ])
    ).rows[0]!.code;
  return {
    run: await codeOf('run', middle * 4 + 1),
    salt: `SALT-${Math.floor(middle / PER_SALT)}`,
    fill: await codeOf('fill', middle * 4 + 1),
  };
}

/** The same house, where it was made before. */
export async function tenYearsThere(connection: Connection, batches: number): Promise<TenYears> {
  const { pool } = connection;
  const owner = (
    await pool.query<{ id: string }>("select id from person where role = 'owner' order by id desc limit 1")
  ).rows[0]!;
  const fills = (await pool.query<{ id: string }>('select id from lot where live_vessel is not null')).rows.map(
    ({ id }) => id,
  );
  return {
    owner: { id: owner.id, role: 'owner' },
    pin: '1234',
    runCodes: [],
    saltCodes: [],
    fillIds: fills,
    batches,
    past: await pastOf(connection, batches),
  };
}
