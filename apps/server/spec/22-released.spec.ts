import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import pg from 'pg';
import { connect } from '../src/db/database.js';
import { migrateTables } from '../src/db/migrate.js';
import { verifyHouse } from '../src/journal/verify/verifyHouse.js';
import '../src/subjects/kinds.js';
import { bareDatabase } from './databases.js';

/** Small houses as each earlier version of the tables left them: batches, readings, jars, a correction, a hold. */
const FOLDER = 'apps/server/spec/released';

/** Filled anew by a migration, from what stood in the same row; or counted elsewhere now. Everything else stays as it was. */
const CHANGED: ReadonlySet<string> = new Set(['material.details', 'credential.failures', 'credential.locked_until']);

/** From here on a house verifies itself. What was recorded earlier was asked less than it would be today, and is only kept. */
const VERIFIES_SINCE = '0008';

type Tables = Map<string, { columns: string[]; rows: string[] }>;

async function tablesOf(client: pg.Client, columnsOf?: Tables): Promise<Tables> {
  const { rows } = await client.query<{ name: string; columns: string[] }>(`
    select table_name as name, array_agg(column_name::text order by column_name) as columns from information_schema.columns
    where table_schema = 'public' and table_name in
      (select table_name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE')
    group by 1 order by 1`);
  const found: Tables = new Map();
  for (const { name, columns } of rows) {
    const known = (columnsOf?.get(name)?.columns ?? columns).filter((column) => !CHANGED.has(`${name}.${column}`));
    const row = `jsonb_build_object(${known.flatMap((column) => [`'${column}'`, `"${column}"`]).join(', ')})::text`;
    const all = await client.query<{ row: string }>(`select ${row} as row from "${name}" order by 1`);
    found.set(name, { columns, rows: all.rows.map((one) => one.row) });
  }
  return found;
}

describe('a house of an earlier version', () => {
  for (const file of readdirSync(FOLDER).sort()) {
    const version = file.slice(0, 4);
    it(`${version}: comes up to today’s tables with nothing lost${version < VERIFIES_SINCE ? '' : ', and its journal gives today’s house'}`, async () => {
      const { ownerUrl, appUrl } = await bareDatabase(`spec_released_${version}`);
      const client = new pg.Client({ connectionString: ownerUrl });
      await client.connect();
      await client.query(gunzipSync(readFileSync(`${FOLDER}/${file}`)).toString('utf8'));
      await client.query("select set_config('search_path', 'public', false)");
      const before = await tablesOf(client);
      expect(before.get('journal')!.rows.length).toBeGreaterThan(40);
      await migrateTables(ownerUrl, 'apps/server/migrations');
      const after = await tablesOf(client, before);
      for (const [name, { rows }] of before) {
        const now = new Set(after.get(name)?.rows ?? []);
        expect(rows.filter((row) => !now.has(row)))
          .withContext(`${name}: rows that are not there as they were`)
          .toEqual([]);
      }
      await client.end();
      if (version < VERIFIES_SINCE) return;
      const connection = connect(appUrl);
      const verified = await verifyHouse({ connection, ownerUrl, migrations: 'apps/server/migrations', ends: null });
      await connection.close();
      expect(verified.faults.map(({ words }) => words)).toEqual([]);
    }, 60_000);
  }
});
