import type { BodyOf, Entry, EntryKind, Problem, Recorded } from '@clear-tally/contract';
import { createServer, type RequestListener, type Server } from 'node:http';
import pg from 'pg';
import pino from 'pino';
import { v7 } from 'uuid';
import { connect, type Connection } from '../src/db/database.js';
import { listen } from '../src/db/live.js';
import { migrateTables } from '../src/db/migrate.js';
import { createApp } from '../src/http/app.js';
import { type Actor, recordEntries } from '../src/journal/record.js';
import { RULES_PERSON } from '../src/journal/rulesPerson.js';
import { Verification } from '../src/journal/verify/verification.js';
import { SignInLimits } from '../src/session/limits.js';
import { setPin } from '../src/session/session.js';

// Several parts of the specs run side by side: a busy machine is not a fault.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 30_000;

export const ids = { next: (): string => v7() };

export const PIN = '2468';

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

/** What stands in a house: how often any table was changed, and by how many entries that the rules did not write. */
async function standsIn(connection: Connection): Promise<{ touched: string; entries: string }> {
  const found = await connection.pool.query<{ touched: string; entries: string }>(
    `select (select times from spec.touched) as touched, (select count(*) from journal where by <> $1) as entries`,
    [RULES_PERSON.personId],
  );
  return found.rows[0]!;
}

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

export interface TestHouse {
  readonly connection: Connection & { ownerUrl: string; appUrl: string };
  readonly server: Server;
  readonly address: string;
  readonly owner: Actor;
  readonly maker: Actor;
  readonly inspector: Actor;
  readonly names: {
    room: string;
    supplier: string;
    turnip: string;
    shred: string;
    salt: string;
    tap: string;
    pepper: string;
    dry: string;
    brined: string;
  };
  readonly vessel: (tag: string) => string;
  /** Records as a person, without the wire. */
  record<K extends EntryKind>(kind: K, body: BodyOf<K>, options?: { at?: Date; by?: Actor }): Promise<Recorded>;
  close(): Promise<void>;
}

export const entryOf = <K extends EntryKind>(kind: K, body: BodyOf<K>, by: string, at = new Date()): Entry =>
  ({ id: ids.next(), kind, happenedAt: at.toISOString(), by, device: 'spec', body }) as unknown as Entry;

/** A whole day, so many days ago: two houses founded by one clock are founded at one moment. */
const daysBefore = (days: number): Date => new Date(Math.floor(Date.now() / 86_400_000 - days) * 86_400_000);

/** A small house with a person of each role, four vessels, two formulas; open on loopback. */
export async function openHouse(
  name: string,
  {
    now = () => new Date(),
    ids: made = { id: ids.next },
    timeZone = 'UTC',
  }: { now?: () => Date; ids?: { id(): string }; timeZone?: string } = {},
): Promise<TestHouse> {
  const connection = await emptyDatabase(name);
  const { db } = connection;
  const actor = (role: Actor['role']): Actor => ({ id: made.id(), role });
  const [owner, maker, inspector] = [actor('owner'), actor('maker'), actor('inspector')];
  const founded = daysBefore(60);
  const record: TestHouse['record'] = async (kind, body, { at = now(), by = owner } = {}) => {
    const [recorded] = await recordEntries(db, {
      entries: [{ ...entryOf(kind, body, by.id, at), id: made.id() }],
      actor: by,
      now: now(),
    });
    return recorded!;
  };
  const at = founded;
  await record(
    'house.found',
    { name: 'Test house', site: 'NY', timeZone, decimalMark: 'point', acidLimit: 4.2, saltTolerance: 0.03 },
    { at },
  );
  for (const [who, label] of [
    [owner, 'Ow'],
    [maker, 'Ma'],
    [inspector, 'In'],
  ] as const) {
    await record('person.add', { personId: who.id, name: `${label} person`, initials: label, role: who.role }, { at });
    await setPin(db, who.id, PIN);
  }
  const named: TestHouse['names'] = {
    room: made.id(),
    supplier: made.id(),
    turnip: made.id(),
    shred: made.id(),
    salt: made.id(),
    tap: made.id(),
    pepper: made.id(),
    dry: made.id(),
    brined: made.id(),
  };
  await record('room.add', { roomId: named.room, name: 'Cellar', usualCelsius: 14, position: 0 }, { at });
  const vessels = new Map<string, string>();
  for (const [tag, brimMl, inUse] of [
    ['C1', 30_000, true],
    ['C2', 30_000, true],
    ['D1', 15_000, true],
    ['D2', 15_000, true],
    ['G1', 5000, true],
    ['X1', 5000, false],
  ] as const) {
    vessels.set(tag, made.id());
    await record(
      'vessel.add',
      {
        vesselId: vessels.get(tag)!,
        tag,
        shape: 'crock',
        brimMl,
        maxFill: 0.88,
        minFill: 0.5,
        weightVolumeMl: 350,
        closure: 'airlock',
        roomId: named.room,
        inUse,
      },
      { at },
    );
  }
  await record('supplier.add', { supplierId: named.supplier, name: 'Causeway Growers', prefix: 'CG' }, { at });
  for (const [materialId, label, kind, waterFraction] of [
    [named.turnip, 'Baby turnips', 'produce', 0.92],
    [named.shred, 'Shred', 'produce', 0.92],
    [named.salt, 'Coarse pan salt', 'salt', 0],
    [named.tap, 'Water', 'water', 1],
    [named.pepper, 'Black pepper', 'flavouring', 0.1],
  ] as const) {
    await record(
      'material.add',
      {
        materialId,
        name: label,
        kind,
        waterFraction,
        saltFraction: kind === 'salt' ? 1 : 0,
        allergens: [],
        caution: null,
      },
      { at },
    );
  }
  const yields = { trim: 0.81, ferment: 0.93, pack: 0.97 };
  const jarSizes = [{ sizeMl: 330, fillGrams: 320 }];
  await record(
    'formula.save',
    {
      formulaId: named.dry,
      number: 1,
      version: 1,
      name: 'Dry shred',
      style: 'dryShred',
      produce: [{ materialId: named.shred, share: 1 }],
      saltBasis: 'ofVegetable',
      saltFraction: 0.022,
      waterPerProduce: 0,
      lines: [],
      solidsFraction: 1,
      yields,
      jarSizes,
      usualDays: 28,
      note: null,
    },
    { at },
  );
  await record(
    'formula.save',
    {
      formulaId: named.brined,
      number: 2,
      version: 1,
      name: 'Brined turnips',
      style: 'brinedWhole',
      produce: [{ materialId: named.turnip, share: 1 }],
      saltBasis: 'ofEverything',
      saltFraction: 0.026,
      waterPerProduce: 0.7,
      lines: [{ materialId: named.pepper, scaleBy: 'mainMass', amount: 0.003 }],
      solidsFraction: 0.58,
      yields,
      jarSizes,
      usualDays: 21,
      note: null,
    },
    { at },
  );
  await record('house.rule', { rule: 'secondPerson', option: 'no', reason: 'One person works here.' }, { at });
  const live = listen(connection.appUrl, () => undefined);
  const app = createApp(
    {
      db,
      reader: connection.reader,
      now,
      live,
      limits: new SignInLimits(db, connection.pool),
      verification: new Verification(
        { connection, ownerUrl: connection.ownerUrl, migrations: 'apps/server/migrations', ends: null },
        () => undefined,
      ),
    },
    { log: pino({ level: 'silent' }) },
  );
  const server = createServer(app.callback() as RequestListener);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  return {
    connection,
    server,
    address: `http://127.0.0.1:${port}`,
    owner,
    maker,
    inspector,
    names: named,
    record,
    vessel: (tag) => vessels.get(tag)!,
    close: async () => {
      server.closeAllConnections();
      server.close();
      await live.close();
      await connection.close();
    },
  };
}

const underWay = new WeakMap<Connection, number>();

/** How many requests are being posted to a house. */
function posting(connection: Connection, more: number): number {
  const now = (underWay.get(connection) ?? 0) + more;
  underWay.set(connection, now);
  return now;
}

/** A signed-in client of the wire. */
export class Client {
  private constructor(
    private readonly house: TestHouse,
    private readonly cookie: string,
    readonly person: string,
  ) {}

  private get address(): string {
    return this.house.address;
  }

  static async signIn(house: TestHouse, actor: Actor): Promise<Client> {
    const reply = await fetch(`${house.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ personId: actor.id, pin: PIN }),
    });
    if (!reply.ok) throw new Error(await reply.text());
    return new Client(house, reply.headers.get('set-cookie')!.split(';')[0]!, actor.id);
  }

  static nobody(house: TestHouse): Client {
    return new Client(house, '', house.maker.id);
  }

  async get<T = unknown>(path: string): Promise<{ status: number; body: T }> {
    const reply = await fetch(this.address + path, { headers: { cookie: this.cookie } });
    return { status: reply.status, body: (await reply.json()) as T };
  }

  async upload(path: string, bytes: Buffer): Promise<{ status: number; body: unknown }> {
    const reply = await fetch(this.address + path, {
      method: 'POST',
      headers: { cookie: this.cookie, 'content-type': 'image/jpeg' },
      body: new Uint8Array(bytes),
    });
    return { status: reply.status, body: await reply.json() };
  }

  /** Anything but entries. */
  async send<T = unknown>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
    const reply = await fetch(this.address + path, {
      method,
      headers: { cookie: this.cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    return { status: reply.status, body: (await reply.json()) as T };
  }

  /** What is no JSON: a sheet, a table. */
  async bytes(path: string): Promise<Buffer> {
    const reply = await fetch(this.address + path, { headers: { cookie: this.cookie } });
    return Buffer.from(await reply.arrayBuffer());
  }

  async text(path: string): Promise<string> {
    return (await this.bytes(path)).toString('latin1');
  }

  /** Posts entries. Whatever is refused is shown to have changed no table at all. */
  async post(body: unknown): Promise<{ status: number; body: Problem & { recorded: Recorded[] } }> {
    const { connection } = this.house;
    const alone = posting(connection, 1) === 1;
    const before = alone ? await standsIn(connection) : null;
    try {
      const reply = await fetch(`${this.address}/api/entries`, {
        method: 'POST',
        headers: { cookie: this.cookie, 'content-type': 'application/json' },
        body: typeof body === 'string' ? body : JSON.stringify(body),
      });
      const answer = { status: reply.status, body: (await reply.json()) as never };
      if (before && !reply.ok && reply.status < 500) await this.expectUntouched(before, answer.body);
      return answer;
    } finally {
      posting(connection, -1);
    }
  }

  private async expectUntouched(before: Awaited<ReturnType<typeof standsIn>>, answer: Problem): Promise<void> {
    // Somebody else wrote meanwhile: nothing can be said.
    if (posting(this.house.connection, 0) > 1) return;
    const after = await standsIn(this.house.connection);
    // The rules may have looked first, and held something.
    if (after.touched === before.touched || after.entries === before.entries) {
      if (after.touched === before.touched) return;
      const { rows: last } = await this.house.connection.pool.query<{ by: string }>(
        'select by from journal order by seq desc limit 1',
      );
      if (last[0]?.by === RULES_PERSON.personId) return;
    }
    throw new Error(`refused (${answer.code}: ${answer.detail}), and something was changed`);
  }

  record<K extends EntryKind>(kind: K, body: BodyOf<K>, at?: Date) {
    return this.post({ entries: [entryOf(kind, body, this.person, at)] });
  }
}
