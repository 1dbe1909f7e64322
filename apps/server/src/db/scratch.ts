import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { connect, type Connection } from './database.js';
import { migrateTables } from './migrate.js';

/** An empty house in a database of its own beside the real one, dropped when it has served. */
export async function withScratch<T>(
  ownerUrl: string,
  migrations: string,
  work: (scratch: Connection) => Promise<T>,
): Promise<T> {
  const name = `clear_tally_check_${randomBytes(6).toString('hex')}`;
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  try {
    await dropLeft(owner);
    await owner.query(`create database ${name}`);
    // What is dropped when it has served need not outlive a power cut.
    await owner.query(`alter database ${name} set synchronous_commit = off`);
    const url = ownerUrl.replace(/\/[^/]*$/, `/${name}`);
    await migrateTables(url, migrations);
    const scratch = connect(url, { max: 2, patient: true });
    try {
      return await work(scratch);
    } finally {
      await scratch.close();
    }
  } finally {
    await owner.query(`drop database if exists ${name} with (force)`).catch(() => undefined);
    await owner.end();
  }
}

/** What a power cut left behind. One that is in use is another's, and stays. */
async function dropLeft(owner: pg.Client): Promise<void> {
  const left = await owner.query<{ datname: string }>(
    "select datname from pg_database d where datname like 'clear\\_tally\\_check\\_%' and not exists (select 1 from pg_stat_activity a where a.datname = d.datname)",
  );
  for (const { datname } of left.rows) await owner.query(`drop database if exists "${datname}"`).catch(() => undefined);
}
