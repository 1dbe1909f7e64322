import { createHash } from 'node:crypto';
import { drizzle, type NodePgDatabase, type NodePgTransaction } from 'drizzle-orm/node-postgres';
import { sql, type ExtractTablesWithRelations, type SQL } from 'drizzle-orm';
import pg from 'pg';
import { readMoment } from './schema/columns.js';
import * as schema from './schema/index.js';

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = NodePgTransaction<typeof schema, ExtractTablesWithRelations<typeof schema>>;
/** Whatever can be read from: the pool, or an open transaction. */
export type Reader = Pick<Database, 'select' | 'execute' | 'selectDistinct' | 'selectDistinctOn'>;

export interface Connection {
  readonly db: Database;
  /** For whoever answers questions: what it is asked can change nothing, whatever it is. */
  readonly reader: Reader;
  readonly pool: pg.Pool;
  close(): Promise<void>;
}

/** Opens a pool as the application's role. A connection that dies is logged by the caller and replaced by the pool. */
export function connect(
  url: string,
  options: { max?: number; onError?: (error: Error) => void; patient?: boolean } = {},
): Connection {
  // Its just-in-time compiler costs more on these many short queries than it saves; and what is read lies in memory or on
  // a disk without a head. Nobody at a bench waits longer than
  // these: a question, a lock and an open transaction end by themselves, also when the database has frozen.
  const limits = options.patient
    ? ''
    : ' -c statement_timeout=7000 -c lock_timeout=4000 -c idle_in_transaction_session_timeout=15000';
  const open = (more: string): pg.Pool => {
    const pool = new pg.Pool({
      connectionString: url,
      max: options.max ?? 10,
      connectionTimeoutMillis: 5000,
      keepAlive: true,
      ...(options.patient ? {} : { query_timeout: 8500 }),
      options: `-c jit=off -c random_page_cost=1.1 -c plan_cache_mode=force_generic_plan${limits}${more}`,
    });
    const lost = (error: Error): void => options.onError?.(error);
    pool.on('error', lost);
    // A connection that dies in the middle of a transaction reports it to itself: unheard, it would end the server.
    pool.on('connect', (client) => {
      client.on('error', lost);
      planOnce(client);
    });
    return pool;
  };
  const [pool, reading] = [open(''), open(' -c default_transaction_read_only=on')];
  const drizzled = (over: pg.Pool): Database => drizzle(over, { schema, casing: 'snake_case' });
  return {
    db: drizzled(pool),
    reader: drizzled(reading),
    pool,
    close: async () => void (await Promise.all([pool.end(), reading.end()])),
  };
}

/** A list of values or rows written out has another text for each length: its plan is not kept. */
const LISTED = /\bin \(\$\d+, ?\$\d+|\$\d+\), ?\(/i;

/**
 * Questions of one text are planned once for a connection, not each time they are asked: the planner takes longer over
 * them than they take. A question whose text depends on how much it asks for is planned as ever.
 */
function planOnce(client: pg.ClientBase): void {
  const ask = client.query.bind(client) as (...args: unknown[]) => unknown;
  (client as { query: unknown }).query = (question: unknown, ...rest: unknown[]): unknown => {
    const plain = question as { text?: unknown; name?: string } | null;
    if (
      typeof plain !== 'object' ||
      plain === null ||
      typeof plain.text !== 'string' ||
      plain.name !== undefined ||
      plain.text.length < 120 ||
      LISTED.test(plain.text)
    )
      return ask(question, ...rest);
    return ask({ ...plain, name: planName(plain.text) }, ...rest);
  };
}

const planNames = new Map<string, string>();

/** Texts are few: should they not be, their names are made anew. */
const MOST_NAMES = 1000;

function planName(text: string): string {
  let name = planNames.get(text);
  if (name === undefined) {
    if (planNames.size >= MOST_NAMES) planNames.clear();
    planNames.set(text, (name = createHash('sha1').update(text).digest('base64url')));
  }
  return name;
}

/** One of these ids, as one parameter: thousands of them are no thousands of parameters. */
export const anyOf = (ids: readonly string[]): SQL => sql`any(${sql.param([...ids])}::uuid[])`;

/** Types of PostgreSQL by their number: a moment with and without its zone. */
const MOMENT_TYPES: ReadonlySet<number> = new Set([1184, 1114]);

/**
 * Rows of a raw query, typed by the caller who wrote its columns. Moments come as a `Date`, read strictly as the
 * database writes them: what a browser's parser makes of "0026-11-25 00:00:00+00" is another year, or none.
 */
export async function rows<T>(reader: Reader, query: Parameters<Reader['execute']>[0]): Promise<T[]> {
  const result = await reader.execute(query);
  const moments = (result.fields ?? [])
    .filter(({ dataTypeID }) => MOMENT_TYPES.has(dataTypeID))
    .map(({ name }) => name);
  if (moments.length > 0)
    for (const row of result.rows)
      for (const name of moments) if (typeof row[name] === 'string') row[name] = readMoment(row[name]);
  return result.rows as T[];
}
