import type { Connection } from '../src/db/database.js';
import { makeBigHouse, type BigHouse } from './bigHouse.js';

/** Journal entries and movements of one past batch: four vessels, six flavourings, samples, losses, four runs. */
const ENTRIES = 40;
const PER_BATCH_HOURS = 4.38;

export interface TenYears extends BigHouse {
  readonly batches: number;
  /** A jar, a salt lot used in 400 batches, a supply, a vessel and a batch of the past, by code. */
  readonly past: { readonly run: string; readonly salt: string; readonly fill: string };
}

/**
 * A house of ten years: some batches at its end made through the write path, with twenty live vessels, and before them
 * `batches` that are past, written by the database itself in sets (the write path would take a day).
 * 20,000 batches are about 1.5 million movements, 800,000 journal entries and a million readings.
 */
export async function makeTenYears(
  connection: Connection,
  ownerUrl: string,
  batches: number,
  say: (text: string) => void,
): Promise<TenYears> {
  const { default: pg } = await import('pg');
  const house = await makeBigHouse(connection.db, 44, () => undefined, 20);
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  const run = async (name: string, sql: string): Promise<void> => {
    const started = Date.now();
    await client.query(sql);
    say(`  ${name}: ${((Date.now() - started) / 1000).toFixed(0)} s`);
  };
  await client.query('begin');
  // The past comes before what is there: its numbers are negative, so that the chain goes on where it ends.
  const base = `(-${(batches + 1) * ENTRIES})`;
  await client.query(`create temp table p as select n, ${base}::bigint + n * ${ENTRIES} as seq, (select min(at) from lot where kind = 'batch') - interval '12 days' - (${batches} - n) * interval '${PER_BATCH_HOURS} hours' as at,
    md5('b' || n)::uuid as batch, md5('s' || n)::uuid as supply, md5('salt' || n / 400)::uuid as salt from generate_series(1, ${batches}) n`);
  await client.query(
    "create temp table o as select (select id from person order by id limit 1) as who, (select id from material where kind = 'produce' limit 1) as shred, (select id from material where kind = 'salt' limit 1) as salt, (select id from supplier limit 1) as supplier, (select formula_id from formula limit 1) as formula",
  );
  await client.query('create temp table v as select id, row_number() over (order by tag) - 1 as number from vessel');
  const vessels = (await client.query<{ n: string }>('select count(*) as n from v')).rows[0]!.n;
  await run(
    'journal',
    `insert into journal (seq, entry_id, kind, happened_at, recorded_at, by, entry, facts, previous_hash, hash)
    select p.seq + k, md5('j' || p.seq + k)::uuid, case k when 0 then 'supply.receive' when 1 then 'batch.start' when 2 then 'produce.weigh' when 3 then 'salt.weigh' when 35 then 'loss.record' else 'ph.read' end, p.at + k * interval '2 hours', p.at + k * interval '2 hours', o.who,
      '{"body":{"batchId":"' || p.batch || '","grams":' || 100 + k || ',"note":"as every day"},"by":"' || o.who || '","device":"bench","happenedAt":"' || to_char(p.at + k * interval '2 hours', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') || '","id":"' || md5('j' || p.seq + k)::uuid || '","kind":"loss.record"}', '{}', md5(p.seq::text), md5((p.seq + k)::text)
    from p, o, generate_series(0, ${ENTRIES - 1}) k`,
  );
  const lots =
    'id, code, code_key, kind, name, origin, at, seq, batch_id, formula_id, formula_version, rules, material_id, supplier_id, supplier_lot_code, vessel_id, closed_at, plan';
  await run(
    'lots',
    `insert into lot (${lots})
    select md5('salt' || n)::uuid, 'SALT-' || n, 'SALT' || n, 'supply', 'Salt', 'received', (select min(at) from p) - interval '1 day', (select min(seq) from p), null::uuid, null::uuid, null::int, null::jsonb, o.salt, o.supplier, 'S-' || n, null::uuid, null::timestamptz, null::jsonb from generate_series(0, ${Math.floor(batches / 400)}) n, o
    union all select md5('fl' || n)::uuid, 'FL-' || n, 'FL' || n, 'supply', 'Pepper', 'received', (select min(at) from p) - interval '1 day', (select min(seq) from p), null, null, null, null, o.shred, o.supplier, 'FL-' || n, null, null, null from generate_series(0, ${Math.floor(batches / 100) + 6}) n, o
    union all select p.supply, 'OLD-' || p.n, 'OLD' || p.n, 'supply', 'Shred', 'received', p.at, p.seq, null, null, null, null, o.shred, o.supplier, 'F-OLD-' || p.n, null, null, null from p, o
    union all select p.batch, 'NB' || p.n, 'NB' || p.n, 'batch', 'Shred', 'made', p.at, p.seq + 1, p.batch, o.formula, 1, '{}', null, null, null, null, p.at + interval '3 hours', '{"from":"trimmed","trimmedGrams":66000}' from p, o
    union all select md5('f' || p.n || '-' || i)::uuid, 'NB' || p.n || '-V' || i, 'NB' || p.n || 'V' || i, 'fill', 'Shred', 'made', p.at + interval '4 hours', p.seq + 4, p.batch, o.formula, 1, null, null, null, null, v.id, p.at + interval '9 days', null from p, o, generate_series(1, 4) i, v where v.number = (p.n * 4 + i) % ${vessels}
    union all select md5('r' || p.n || '-' || i)::uuid, 'NR' || p.n || '-' || i, 'NR' || p.n || i, 'run', 'Shred', 'made', p.at + interval '9 days', p.seq + 36, p.batch, o.formula, 1, null, null, null, null, null, null, null from p, o, generate_series(1, 4) i`,
  );
  const moved = 'id, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams';
  const row = (k: number | string, extra: string): string =>
    `(p.seq + ${k}) * 1000 + ${extra}, p.seq + ${k}, md5('j' || p.seq + ${k})::uuid`;
  await run(
    'movements',
    `insert into movement (${moved})
    select ${row(0, '0')}, 'supply.receive', p.at, null::uuid, 'received', p.supply, null, 80000000 from p
    union all select ${row(0, '1')}, 'supply.receive', (select min(at) from p) - interval '1 day', null, 'received', p.salt, null, 600000000 from p where p.n % 400 = 1
    union all select ${row(0, '2')}, 'supply.receive', (select min(at) from p) - interval '1 day', null, 'received', md5('fl' || p.n / 100)::uuid, null, 600000000 from p where p.n % 100 = 1
    union all select ${row(2, '0')}, 'produce.weigh', p.at + interval '1 hour', p.supply, null, p.batch, null, 66000000 from p
    union all select ${row(2, '1')}, 'produce.weigh', p.at + interval '1 hour', p.supply, null, null, 'trim', 14000000 from p
    union all select ${row(3, '0')}, 'salt.weigh', p.at + interval '2 hours', p.salt, null, p.batch, null, 1452000 from p
    union all select ${row(3, '1 + i')}, 'ingredient.add', p.at + interval '2 hours', md5('fl' || (p.n / 100 + i))::uuid, null, p.batch, null, 20000 + i from p, generate_series(0, 5) i
    union all select ${row(4, 'i')}, 'vessel.fill', p.at + interval '4 hours', p.batch, null, md5('f' || p.n || '-' || i)::uuid, null, 16800000 from p, generate_series(1, 4) i
    union all select ${row('10 + s', 'i')}, 'loss.record', p.at + (10 + s) * interval '8 hours', md5('f' || p.n || '-' || i)::uuid, null, null, case s % 3 when 0 then 'sample' when 1 then 'gas' else 'overflow' end, 30000 + s from p, generate_series(1, 4) i, generate_series(0, 12) s
    union all select ${row(36, 'i')}, 'pack.run', p.at + interval '9 days', md5('f' || p.n || '-' || i)::uuid, null, md5('r' || p.n || '-' || i)::uuid, null, 16000000 from p, generate_series(1, 4) i
    union all select ${row(36, '10 + i')}, 'pack.run', p.at + interval '9 days', md5('f' || p.n || '-' || i)::uuid, null, null, 'packingWaste', 300000 from p, generate_series(1, 4) i`,
  );
  await run(
    'readings',
    `insert into reading (entry_id, root_entry_id, seq, lot_id, kind, value, sample, at, for_release)
    select md5('rd' || p.n || '-' || i || '-' || s)::uuid, md5('rd' || p.n || '-' || i || '-' || s)::uuid, p.seq + 10 + s, md5('f' || p.n || '-' || i)::uuid, case when s < 7 then 'ph' else 'temperature' end, case when s < 7 then 5.2 - s * 0.22 else 14.2 end, case when s < 7 then 'blended' end, p.at + (6 + s * 14) * interval '1 hour', s < 7
    from p, generate_series(1, 4) i, generate_series(0, 12) s`,
  );
  await run(
    'pages of the book',
    `insert into entry_lot (lot_id, seq)
    select p.batch, p.seq + k from p, generate_series(1, 4) k union all select md5('f' || p.n || '-' || i)::uuid, p.seq + k from p, generate_series(1, 4) i, generate_series(4, 36) k where k = 4 or k >= 10 union all select p.salt, p.seq + 3 from p union all select p.supply, p.seq + k from p, generate_series(0, 2) k where k <> 1
    union all select md5('r' || p.n || '-' || i)::uuid, p.seq + 36 from p, generate_series(1, 4) i`,
  );
  await run(
    'checks',
    `insert into check_mark (entry_id, lot_id, key, what, quiet, by, at, seq) select md5('c' || p.n || '-' || i || '-' || s)::uuid, md5('f' || p.n || '-' || i)::uuid, 'look', 'look', true, o.who, p.at + s * interval '1 day', p.seq + 10 + s from p, o, generate_series(1, 4) i, generate_series(1, 8) s`,
  );
  await run(
    'jars',
    `insert into jar_range (run_lot_id, first_serial, last_serial, size_ml, net_milligrams) select md5('r' || p.n || '-' || i)::uuid, 1, 63, 330, 320000 from p, generate_series(1, 4) i`,
  );
  await run(
    'holds',
    `insert into hold (entry_id, lot_id, reason, rule, placed_at, lifted_at, lift_reason) select md5('h' || p.n)::uuid, md5('f' || p.n || '-1')::uuid, 'Looked at again', 'person', p.at + interval '1 day', p.at + interval '2 days', 'in order' from p where p.n % 20 = 0`,
  );
  await client.query('commit');
  await run('statistics', 'vacuum analyze');
  await client.end();
  return { ...house, batches, past: pastOf(batches) };
}

function pastOf(batches: number): TenYears['past'] {
  const middle = Math.floor(batches / 2);
  return { run: `NR${middle}-2`, salt: `SALT-${Math.floor(middle / 400)}`, fill: `NB${middle}-V2` };
}

/** The same house, where it was made before. */
export async function tenYearsThere({ pool }: Connection, batches: number): Promise<TenYears> {
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
    past: pastOf(batches),
  };
}
