import type { Connection } from '../../db/database.js';
import type { Fault } from './fault.js';

/** Beside the history: who signs in, limits, how rows were before an entry changed them, and pictures, whose hashes are looked at by themselves. */
const BESIDE = [
  'credential',
  'sign_in',
  'known_device',
  'rate_limit',
  'look',
  'calendar_key',
  'photo',
  'row_change',
  'changes_kept',
  // Who complained is kept beside the book, so that it can be deleted for good.
  'complaint_contact',
];

const PAGE = 2000;

interface Row {
  readonly key: string;
  readonly row: Record<string, unknown>;
}

type Pool = Connection['pool'];

/** Compares every table of the house with what its journal gives when it is recorded anew: the first row of each that differs. */
export async function compareTables(real: Pool, anew: Pool): Promise<Fault[]> {
  const tables = await real.query<{ name: string }>(
    `select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' and table_name <> all ($1) order by 1`,
    [BESIDE],
  );
  const faults: Fault[] = [];
  for (const { name } of tables.rows) {
    const fault = await firstDifference(name, real, anew);
    if (fault) faults.push(fault);
  }
  return faults;
}

async function firstDifference(table: string, real: Pool, anew: Pool): Promise<Fault | null> {
  const keys = (
    await real.query<{ column: string }>(
      `
    select a.attname as column from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any (i.indkey) where i.indrelid = $1::regclass and i.indisprimary order by array_position(i.indkey::int[], a.attnum::int)`,
      [`public.${table}`],
    )
  ).rows.map(({ column }) => `"${column}"`);
  const [one, other] = [rowsOf(real, table, keys), rowsOf(anew, table, keys)];
  try {
    return await walked(table, one, other);
  } finally {
    // Left in the middle, they would keep their connections.
    await Promise.all([one.return(undefined), other.return(undefined)]);
  }
}

async function walked(
  table: string,
  one: AsyncGenerator<Row, undefined>,
  other: AsyncGenerator<Row, undefined>,
): Promise<Fault | null> {
  for (;;) {
    const [a, b] = [(await one.next()).value, (await other.next()).value];
    if (!a && !b) return null;
    // Both walk in the order of their keys: the smaller key is the row the other has not.
    if (!b || (a && a.key < b.key))
      return { where: table, seq: seqOf(a!), words: `A row of ${table} (${a!.key}) was recorded by no entry.` };
    if (!a || b.key < a.key)
      return {
        where: table,
        seq: seqOf(b),
        words: `A row of ${table} (${b.key}) is missing; ${entryOf(b)} recorded it.`,
      };
    const column = Object.keys(b.row).find((name) => JSON.stringify(a.row[name]) !== JSON.stringify(b.row[name]));
    if (column)
      return {
        where: table,
        seq: seqOf(b),
        words: `${table} (${a.key}): “${column}” is ${shown(a.row[column])}; ${entryOf(b)} recorded ${shown(b.row[column])}.`,
      };
  }
}

/** Rows in the order of their key, in pages, so that no table has to fit into memory. */
async function* rowsOf(pool: Pool, table: string, keys: readonly string[]): AsyncGenerator<Row, undefined> {
  const client = await pool.connect();
  const text = `concat_ws(' ', ${keys.map((key) => `${key}::text`).join(', ')}) collate "C"`;
  try {
    await client.query('begin read only');
    await client.query(
      `declare walked no scroll cursor for select ${text} as key, to_jsonb(t) as row from public."${table}" t order by ${text}`,
    );
    for (;;) {
      const page = await client.query<Row>(`fetch ${PAGE} from walked`);
      yield* page.rows;
      if (page.rows.length < PAGE) return undefined;
    }
  } finally {
    await client.query('rollback').catch(() => undefined);
    client.release();
  }
}

const seqOf = ({ row }: Row): number | null => (typeof row['seq'] === 'number' ? row['seq'] : null);

const entryOf = (row: Row): string => (seqOf(row) === null ? 'the journal' : `entry ${seqOf(row)}`);

const shown = (value: unknown): string => {
  const text = typeof value === 'string' ? `“${value}”` : JSON.stringify(value ?? null);
  return text.length > 80 ? `${text.slice(0, 79)}…` : text;
};
