import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';

/** Any number will do as long as it is always the same: only one starter migrates at a time. */
const MIGRATION_LOCK = 4_202_611;

/** Brings the tables up to date, as their owner. */
export async function migrateTables(ownerUrl: string, migrationsFolder: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migrate(drizzle(client, { casing: 'snake_case' }), { migrationsFolder });
  } finally {
    await client.end();
  }
}
