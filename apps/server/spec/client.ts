import type { BodyOf, EntryKind, Problem, Recorded } from '@clear-tally/contract';
import type { Connection } from '../src/db/database.js';
import type { Actor } from '../src/journal/record.js';
import { RULES_PERSON } from '../src/journal/rulesPerson.js';
import type { TestHouse } from './house.js';
import { PIN, entryOf } from './entries.js';

/** What stands in a house: how often any table was changed, and by how many entries that the rules did not write. */
async function standsIn(connection: Connection): Promise<{ touched: string; entries: string }> {
  const found = await connection.pool.query<{ touched: string; entries: string }>(
    `select (select times from spec.touched) as touched, (select count(*) from journal where by <> $1) as entries`,
    [RULES_PERSON.personId],
  );
  return found.rows[0]!;
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
