import {
  ENTRY_KINDS,
  floorReply,
  type FloorReply,
  RULE_KINDS,
  shelfReply,
  type WatchReply,
} from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { Agent, request } from 'node:http';
import { connect as connectTo } from 'node:net';
import pg from 'pg';
import { rows } from '../src/db/database.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { BODIES, fitting, HOSTILE, numbers, spoilt } from './hostile.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, type DryBatch, dryBatch, packJars, sour } from './oneBatch.js';

const MANY = Number(process.env['HOSTILE_REQUESTS'] ?? 20_000);

describe('values nobody would type', () => {
  let house: TestHouse;
  let owner: Client;
  let batch: DryBatch;
  let run: { runLotId: string; code: string };
  let cookie: string;
  beforeAll(async () => {
    house = await openHouse('spec_hostile');
    owner = await Client.signIn(house, house.owner);
    const reply = await fetch(`${house.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ personId: house.owner.id, pin: PIN }),
    });
    cookie = reply.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; ');
    batch = await dryBatch(house, { tag: 'C1', at: daysAgo(12) });
    await dryBatch(house, { tag: 'C2', at: daysAgo(9) });
    const packed = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(30) });
    await sour(house, packed.fillId, daysAgo(30), daysAgo(1));
    run = await packJars(house, packed.fillId, 20);
  }, 60_000);
  afterAll(() => house.close());

  const agent = new Agent({ keepAlive: true, maxSockets: 12 });
  /** Sent as it is: neither a browser nor `fetch` tidies the address up. */
  const send = (
    method: string,
    path: string,
    body?: string,
    more: Record<string, string> = {},
  ): Promise<{ status: number; body: string }> =>
    new Promise((resolve, reject) => {
      const { hostname, port } = new URL(house.address);
      const out = request(
        {
          agent,
          hostname,
          port,
          method,
          path,
          headers: {
            cookie,
            ...(body === undefined
              ? {}
              : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) }),
            ...more,
          },
        },
        (reply) => {
          let text = '';
          reply.setEncoding('utf8');
          reply.on('data', (data: string) => {
            text += data;
          });
          reply.on('end', () => resolve({ status: reply.statusCode!, body: text }));
        },
      );
      out.on('error', reject);
      out.end(body);
    });
  const PAGES = (): string[] => [
    '/api/house',
    '/api/shelf',
    '/api/floor',
    '/api/meters',
    '/api/formulas',
    '/api/supplies',
    '/api/stock',
    '/api/making',
    `/api/making/${batch.batchId}`,
    '/api/timers',
    '/api/starters',
    '/api/lots',
    '/api/packable',
    '/api/runs',
    `/api/runs/${run.code}`,
    `/api/runs/${run.code}/heat`,
    `/api/runs/${run.code}/labels`,
    `/api/runs/${run.code}/dossier`,
    '/api/finishes',
    '/api/processes',
    '/api/jars',
    '/api/customers',
    `/api/trace/${run.code}`,
    `/api/formulas/${house.names.dry}`,
    '/api/round.pdf',
    '/api/house-rules/acidLimit/history',
    '/api/people',
  ];
  const readable = async (pages = PAGES()): Promise<void> => {
    for (const page of pages)
      expect((await send('GET', page)).status)
        .withContext(page)
        .toBe(200);
  };
  const digest = async (): Promise<string> => {
    const tables = await rows<{ name: string }>(
      house.connection.db,
      sql`select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' and table_name not in ('rate_limit', 'sign_in', 'known_device') order by 1`,
    );
    const sums: string[] = [];
    for (const { name } of tables)
      sums.push(
        (
          await rows<{ sum: string }>(
            house.connection.db,
            sql.raw(`select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from "${name}" t`),
          )
        )[0]!.sum,
      );
    return sums.join();
  };
  const entryWith = (kind: string, body: unknown, more: object = {}) => ({
    id: ids.next(),
    kind,
    happenedAt: new Date().toISOString(),
    by: house.owner.id,
    device: 'spec',
    body,
    ...more,
  });

  it('a year of two figures, of 1582, of 1900 is refused in words wherever a moment or a day is named', async () => {
    const before = await digest();
    for (const year of ['0026', '0001', '1582', '1900', '1949']) {
      for (const [kind, body] of [
        ['ph.read', { lotId: batch.fillId, ph: 4, sample: 'blended' }],
        ['vessel.clean', { vesselId: house.vessel('G1'), agent: 'soda' }],
        ['house.rule', { rule: 'secondPerson', option: 'no', reason: null }],
        [
          'batch.start',
          {
            batchId: ids.next(),
            formulaId: house.names.dry,
            version: 1,
            plan: { from: 'trimmed', trimmedGrams: 1000 },
          },
        ],
      ] as const) {
        const reply = await owner.post({ entries: [entryWith(kind, body, { happenedAt: `${year}-11-25T08:00:00Z` })] });
        expect(reply.status).withContext(`${kind} in ${year}`).toBe(400);
        expect(reply.body.detail).toContain('four figures');
      }
      const open = await owner.record('lot.open', {
        what: 'vessel',
        batchId: ids.next(),
        fillLotId: ids.next(),
        name: 'Old',
        vesselId: house.vessel('G1'),
        grams: 900,
        filledOn: `${year}-11-25`,
      });
      expect(open.body.detail).toContain('four figures');
      expect(open.body.detail).toContain(`${year}-11-25`);
    }
    expect(await digest()).toBe(before);
  });

  it('no work on a thing before the thing was there', async () => {
    const before = await digest();
    for (const [kind, body] of [
      ['step.begin', { batchId: batch.batchId, step: 'salt' }],
      ['vessel.close', { lotId: batch.fillId, closure: 'airlock', headspaceMm: 40, weightItems: [], tray: false }],
      ['loss.record', { lotId: batch.fillId, sink: 'sample', grams: 10, note: null }],
      [
        'vessel.topUp',
        {
          lotId: batch.fillId,
          how: 'evaporation',
          lostGrams: 50,
          saltLotId: null,
          saltGrams: 0,
          waterLotId: batch.saltLot,
          waterGrams: 0,
        },
      ],
    ] as const) {
      const reply = await owner.post({ entries: [entryWith(kind, body, { happenedAt: daysAgo(20).toISOString() })] });
      expect(reply.body.code).withContext(kind).toBe('lot.notYet');
    }
    expect(await digest()).toBe(before);
  });

  it('a vessel that cannot be read is a fault of its own line: every page works, and the rules look at the others', async () => {
    const admin = new pg.Client({
      connectionString: house.connection.ownerUrl.replace(
        /\/\/[^@]*@/,
        process.env['TEST_ADMIN_URL']!.match(/\/\/[^@]*@/)![0],
      ),
    });
    await admin.connect();
    const [{ at }] = (await admin.query<{ at: Date }>('select at from lot where id = $1', [batch.fillId])).rows as [
      { at: Date },
    ];
    try {
      await admin.query('alter table lot drop constraint lot_when_plausible');
      for (const bad of ['infinity', '0026-11-25', '1582-10-15', '0044-03-15 BC']) {
        await admin.query('update lot set at = $2::timestamptz where id = $1', [batch.fillId, bad]);
        // What changes the book unseen is seen at the next entry, or seconds later.
        await house.record('vessel.clean', { vesselId: house.vessel('G1'), agent: 'soda' });
        const floor = floorReply.parse(JSON.parse((await send('GET', '/api/floor')).body));
        expect(floor.faults.map(({ vesselTag }) => vesselTag))
          .withContext(bad)
          .toEqual(['C1']);
        expect(floor.vessels.map(({ vesselTag }) => vesselTag))
          .withContext(bad)
          .toEqual(['C2', 'D1']);
        expect(shelfReply.parse(JSON.parse((await send('GET', '/api/shelf')).body)).faults[0]!.words).toContain(
          'cannot be read',
        );
        await readable();
      }
    } finally {
      await admin.query('update lot set at = $2 where id = $1', [batch.fillId, at]);
      await admin.end();
    }
  }, 30_000);

  it('what an unreadable vessel was poured into is not judged, and not packed', async () => {
    const own = await openHouse('spec_poured');
    const admin = new pg.Client({
      connectionString: own.connection.ownerUrl.replace(
        /\/\/[^@]*@/,
        process.env['TEST_ADMIN_URL']!.match(/\/\/[^@]*@/)![0],
      ),
    });
    await admin.connect();
    try {
      const small = { produceGrams: 9000, saltGrams: 198 };
      const [first, second, third] = [
        await dryBatch(own, { tag: 'C1', ...small }),
        await dryBatch(own, { tag: 'C2', ...small }),
        await dryBatch(own, { tag: 'D1', ...small }),
      ];
      for (const { fillId } of [first, second, third]) await sour(own, fillId, daysAgo(30));
      await own.record('lot.transfer', { fromLotId: first.fillId, toLotId: second.fillId, grams: 400, note: null });
      for (const { fillId } of [second, third]) await sour(own, fillId, daysAgo(30), new Date());
      await admin.query('alter table lot drop constraint lot_when_plausible');
      await admin.query("update lot set at = '0026-11-25' where id = $1", [first.fillId]);
      const client = await Client.signIn(own, own.owner);
      const { faults, vessels } = (await client.get<FloorReply>('/api/floor')).body;
      expect(faults.map(({ vesselTag }) => vesselTag)).toEqual(['C1', 'C2']);
      expect(faults[1]!.words).toContain('poured into it from another vessel cannot be read');
      expect(vessels.map(({ vesselTag }) => vesselTag)).toEqual(['D1']);
      const jars = (fillLotId: string) =>
        client.record('pack.run', {
          runLotId: ids.next(),
          from: [{ fillLotId, grams: 320, empties: false }],
          jars: [{ sizeMl: 330, netGrams: 320, count: 1 }],
          sampleGrams: 0,
          leftoverGrams: 0,
          wasteGrams: 0,
          tallyReason: null,
        });
      expect((await jars(second.fillId)).body.code).toBe('record.unreadable');
      expect((await client.get<WatchReply>(`/api/watch/${vessels[0]!.code}`)).status).toBe(200);
    } finally {
      await admin.end();
      await own.close();
    }
  });

  it('what an old book holds that cannot be shown spoils no run sheet, no judgement and no question of a room', async () => {
    const room = ids.next();
    await house.record('room.add', { roomId: room, name: 'Loft', usualCelsius: 15, position: 3 });
    await house.record('vessel.move', { lotId: batch.fillId, roomId: room });
    await house.record(
      'supply.state',
      { lotId: batch.shredLot, state: 'thawed', keepsUntil: null },
      { at: daysAgo(12) },
    );
    const { vessels } = (await owner.get<FloorReply>('/api/floor')).body;
    const { code } = vessels.find(({ vesselTag }) => vesselTag === 'C1')!;
    const looksInside = [`/api/watch/${code}`, `/api/asked-by/room/${room}`];
    // Half of a pair, no letter at all, and what only looks like one.
    const spoiltDevice = String.raw`"device":"a\u0000b \ud83e \\\u0000\uDC00 \\u0000"`;
    const owned = new pg.Client({ connectionString: house.connection.ownerUrl });
    await owned.connect();
    try {
      await owned.query('alter table journal disable trigger journal_append_only');
      await owned.query('update journal set entry = replace(entry, $1, $2)', ['"device":"spec"', spoiltDevice]);
      await readable([...PAGES(), ...looksInside]);
    } finally {
      await owned.query('update journal set entry = replace(entry, $2, $1)', ['"device":"spec"', spoiltDevice]);
      await owned.query('alter table journal enable trigger journal_append_only');
      await owned.end();
    }
  });

  it('addresses that are none get their 4xx', async () => {
    for (const path of [
      '/api/codes/a%00b',
      '/api/trace/a%00b',
      '/api/lots?search=a%00b',
      '/api/codes/%ff',
      '/api/lots/%E0%A4',
      '/api/lots?search=%ud83e',
      '/api/codes/%ED%A0%BD',
      '/api/lots?before=1e999',
      '/api/lots?before=99999999999999999999',
      '/api/lots?kind=none',
      '/styles-ABCDEFGH.css/../../../x',
      '//etc/passwd',
      '/api/%2e%2e/%2e%2e/x',
      '/api/formulas/x',
      '/api/photos/x',
      `/api/formulas/${house.names.dry}?version=2147483648`,
    ]) {
      const reply = await send('GET', path);
      expect(reply.status).withContext(path).toBeGreaterThanOrEqual(400);
      expect(reply.status).withContext(path).toBeLessThan(500);
    }
    expect((await send('GET', '/api/floor', undefined, { 'accept-encoding': 'identity;q=0' })).status).toBe(406);
    expect((await send('GET', '/api/floor', undefined, { 'accept-encoding': 'identity;q=0, gzip' })).status).toBe(200);
    expect((await send('GET', '/api/floor', undefined, { 'accept-encoding': '*;q=0' })).status).toBe(406);
  });

  it('half an HTTP request, and one that is none, end nothing', async () => {
    const { hostname, port } = new URL(house.address);
    for (const raw of [
      'GET /api/floor HTTP/1.1\r\nHost: a\r\n',
      'NONSENSE\r\n\r\n',
      `POST /api/entries HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5000\r\n\r\n{"ent`,
    ]) {
      await new Promise<void>((resolve) => {
        const line = connectTo(Number(port), hostname, () => {
          line.write(raw);
          setTimeout(() => {
            line.destroy();
            resolve();
          }, 60);
        });
        line.on('error', () => resolve());
      });
    }
    await readable();
  });

  it(`${MANY} seeded requests to every kind and every route: no fault, nothing changed by what is refused, every page readable afterwards`, async () => {
    const next = numbers(Number(process.env['HOSTILE_SEED'] ?? 20_261_125));
    const kinds = ENTRY_KINDS.filter(
      // What ends the sign-in of who sends all this would only show that it is ended.
      (kind) =>
        !RULE_KINDS.includes(kind) && kind !== 'house.found' && kind !== 'person.leave' && kind !== 'person.change',
    );
    const known = [
      ...new Set([
        ...Object.values(house.names),
        house.owner.id,
        house.maker.id,
        batch.batchId,
        batch.fillId,
        batch.saltLot,
        batch.shredLot,
        run.runLotId,
        house.vessel('C1'),
        house.vessel('G1'),
        ids.next(),
      ]),
    ];
    const routes = [
      '/api/codes/',
      '/api/trace/',
      '/api/lots/',
      '/api/watch/',
      '/api/entries/',
      '/api/journal?before=',
      '/api/formulas/',
      '/api/making/',
      '/api/reach/',
      '/api/photos/',
      '/api/house-rules/',
      '/api/lots?search=',
      '/api/lots?before=',
      '/api/supplies?materialId=',
      '/api/supplies?kind=',
      '/api/judge?lotId=',
      '/api/labels.pdf?lots=',
      '/api/runs/',
      '/api/finishes/',
      `/api/runs/${run.code}/labels.pdf?first=1&last=2&designId=`,
      `/api/formulas/${house.names.dry}/batch.csv?trimmedGrams=`,
      '/calendar/',
      '/api/',
    ];
    const said = (reply: { status: number; body: string }, to: unknown) => {
      if (reply.status >= 500)
        faults.push(`${reply.status} ${reply.body.slice(0, 300)} to ${JSON.stringify(to).slice(0, 2000)}`);
    };
    const faults: string[] = [];
    const refusedOnly = await digest();
    // What nobody may send, spoilt or whole, changes nothing at all.
    for (let count = 0; count < MANY / 40; count += 1) {
      const kind = kinds[Math.floor(next() * kinds.length)]!;
      const sent = JSON.stringify({
        entries: [{ ...entryWith(kind, spoilt(fitting(BODIES.get(kind)!, next, known), next)), surplus: 1 }],
      });
      said(await send('POST', '/api/entries', sent), sent);
    }
    expect(await digest()).toBe(refusedOnly);
    let accepted = 0;
    const [{ n: before } = { n: 0 }] = await rows<{ n: number }>(
      house.connection.db,
      sql`select count(*)::int as n from journal where by <> '00000000-0000-7000-8000-0000000c1ea7'`,
    );
    /** What was recorded, put right with something hostile, or taken back; looked at, or recorded. */
    const recorded: { id: string; kind: string }[] = [];
    const correct = async ({ id, kind }: { id: string; kind: string }): Promise<void> => {
      const body = spoilt(fitting(BODIES.get(kind)!, next, known), next);
      const instead = next() < 0.3 ? null : { kind, body };
      const entry = entryWith('entry.correct', { corrects: id, reason: 'typed wrong', instead });
      if (next() < 0.5) {
        said(await send('POST', '/api/corrections/preview', JSON.stringify(entry)), ['looked at', kind, entry]);
        return;
      }
      const reply = await send('POST', '/api/entries', JSON.stringify({ entries: [entry] }));
      if (reply.status === 200) accepted += 1;
      said(reply, [kind, entry]);
    };
    const one = async (count: number): Promise<void> => {
      if (count % 4 === 3) {
        const value = HOSTILE[Math.floor(next() * HOSTILE.length)];
        const text = typeof value === 'string' ? value : JSON.stringify(value);
        const path = `${routes[Math.floor(next() * routes.length)]!}${safely(text.slice(0, 600))}`;
        said(await send('GET', path), path);
        return;
      }
      if (count % 16 === 1 && recorded.length > 0) {
        await correct(recorded[Math.floor(next() * recorded.length)]!);
        return;
      }
      const kind = kinds[Math.floor(next() * kinds.length)]!;
      const whole = entryWith(kind, fitting(BODIES.get(kind)!, next, known));
      const entry =
        next() < 0.1 ? whole : next() < 0.2 ? spoilt(whole, next) : { ...whole, body: spoilt(whole.body, next) };
      const reply = await send('POST', '/api/entries', JSON.stringify({ entries: [entry] }));
      if (reply.status === 200) recorded.push({ id: whole.id, kind });
      if (reply.status === 200)
        accepted += (JSON.parse(reply.body) as { recorded: { repeated: boolean }[] }).recorded.filter(
          ({ repeated }) => !repeated,
        ).length;
      said(reply, entry);
    };
    let count = 0;
    await Promise.all(
      Array.from({ length: 8 }, async () => {
        while (count < MANY) await one((count += 1));
      }),
    );
    expect(faults.slice(0, 5)).withContext(house.faults.slice(-5).join('\n')).toEqual([]);
    const [{ n: after } = { n: 0 }] = await rows<{ n: number }>(
      house.connection.db,
      sql`select count(*)::int as n from journal where by <> '00000000-0000-7000-8000-0000000c1ea7'`,
    );
    expect(after - before).toBe(accepted);
    // Most are refused at the door; enough go in to know that those behind it were tried.
    expect(accepted).toBeGreaterThan(MANY / 100);
    expect((await verifyChain(house.connection.db)).brokenAt).toBeNull();
    await readable();
  }, 180_000);
});

/** As an address carries it; what is no text goes as its bytes. */
const safely = (text: string): string =>
  [...Buffer.from(text, 'utf8')]
    .map((byte) =>
      byte < 0x80 && /[A-Za-z0-9._~-]/.test(String.fromCharCode(byte))
        ? String.fromCharCode(byte)
        : `%${byte.toString(16).padStart(2, '0')}`,
    )
    .join('');
