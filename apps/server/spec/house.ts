import type { BodyOf, EntryKind, Recorded } from '@clear-tally/contract';
import { createServer, type RequestListener, type Server } from 'node:http';
import pino from 'pino';
import type { Connection } from '../src/db/database.js';
import { listen } from '../src/db/live.js';
import { createApp } from '../src/http/app.js';
import { type Actor, recordEntries } from '../src/journal/record.js';
import { Verification } from '../src/journal/verify/verification.js';
import { SignInLimits } from '../src/session/limits.js';
import { setPin } from '../src/session/session.js';
import { PIN, entryOf, ids } from './entries.js';
import { emptyDatabase } from './databases.js';

export interface TestHouse {
  readonly connection: Connection & { ownerUrl: string; appUrl: string };
  readonly server: Server;
  readonly address: string;
  /** What its server wrote down of faults, a line each: a spec that meets one says where it lies. */
  readonly faults: readonly string[];
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
  const faults: string[] = [];
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
    { log: pino({ level: 'error' }, { write: (line) => void faults.push(line) }) },
  );
  const server = createServer(app.callback() as RequestListener);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  return {
    connection,
    server,
    address: `http://127.0.0.1:${port}`,
    faults,
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
