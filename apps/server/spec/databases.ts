import pg from 'pg';
import { connect, type Connection } from '../src/db/database.js';
import { migrateTables } from '../src/db/migrate.js';

// Several parts of the specs run side by side: a busy machine is not a fault.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 30_000;

const admin = (): string => {
  const url = process.env['TEST_ADMIN_URL'];
  if (!url) throw new Error('TEST_ADMIN_URL is not set; run npm test');
  return url;
};

const urlOf = (role: 'TEST_OWNER_URL' | 'TEST_APP_URL', database: string): string =>
  process.env[role]!.replace(/\/[^/]*$/, `/${database}`);

/** The tables are made once in a run of the specs; every house of a spec begins as a copy of them. */
const TEMPLATE = `spec_template_${process.pid}`;

let template: Promise<void> | undefined;

async function asAdmin(...statements: readonly string[]): Promise<void> {
  const client = new pg.Client({ connectionString: admin() });
  await client.connect();
  for (const statement of statements) await client.query(statement);
  await client.end();
}

async function makeTemplate(): Promise<void> {
  await asAdmin(
    `drop database if exists ${TEMPLATE} with (force)`,
    `create database ${TEMPLATE} owner clear_tally_owner`,
  );
  await migrateTables(urlOf('TEST_OWNER_URL', TEMPLATE), 'apps/server/migrations');
  const owned = new pg.Client({ connectionString: urlOf('TEST_OWNER_URL', TEMPLATE) });
  await owned.connect();
  await owned.query(WATCHED);
  await owned.end();
}

/** Who comes in is counted also when nothing is recorded. */
const COMING_IN = ['sign_in', 'known_device', 'rate_limit', 'credential'];

/** Every statement that changes a table is counted, and forgotten with it when its transaction is rolled back. */
const WATCHED = `
create schema spec;
grant usage on schema spec to clear_tally_app;
create table spec.touched (times bigint not null);
grant select on spec.touched to clear_tally_app;
insert into spec.touched values (0);
create function spec.touch() returns trigger language plpgsql security definer as
  'begin update spec.touched set times = times + 1; return null; end';
do $$ declare name text; begin
  for name in select table_name from information_schema.tables where table_schema = 'public'
    and table_type = 'BASE TABLE' and table_name not in (${COMING_IN.map((name) => `'${name}'`).join(', ')})
  loop execute format('create trigger spec_touch after insert or update or delete on public.%I execute function spec.touch()', name);
  end loop; end $$`;

/** An empty database of a house's own, made for one spec. */
export async function emptyDatabase(name: string): Promise<Connection & { ownerUrl: string; appUrl: string }> {
  await (template ??= makeTemplate());
  await asAdmin(
    `drop database if exists ${name} with (force)`,
    `create database ${name} template ${TEMPLATE} owner clear_tally_owner`,
  );
  const ownerUrl = urlOf('TEST_OWNER_URL', name);
  const appUrl = urlOf('TEST_APP_URL', name);
  return { ...connect(appUrl), ownerUrl, appUrl };
}

/** Has the database count what its tables hold, as it does by itself in a house that grows by the day. */
export function lookedAt(ownerUrl: string): () => Promise<void> {
  return async () => {
    const owner = new pg.Client({ connectionString: ownerUrl });
    await owner.connect();
    await owner.query('analyze');
    await owner.end();
  };
}

/** A database with nothing in it, not even tables. */
export async function bareDatabase(name: string): Promise<{ ownerUrl: string; appUrl: string }> {
  await asAdmin(`drop database if exists ${name} with (force)`, `create database ${name} owner clear_tally_owner`);
  return { ownerUrl: urlOf('TEST_OWNER_URL', name), appUrl: urlOf('TEST_APP_URL', name) };
}
