import { recordEntries } from '../src/journal/record.js';
import { Refused } from '../src/journal/refused.js';
import { readRights } from '../src/subjects/people/readRights.js';
import { request } from 'node:http';
import { createServer, type RequestListener, type Server } from 'node:http';
import pino from 'pino';
import { ENTRY_KINDS, type EntryKind, peopleReply, rightsReply } from '@clear-tally/contract';
import { createApp } from '../src/http/app.js';
import { daysToGuess, LIMITS, SignInLimits } from '../src/session/limits.js';
import { hashPin, isLongEnough, pinFault, pinMatches } from '../src/session/pin.js';
import { setPin } from '../src/session/session.js';
import { listen } from '../src/db/live.js';
import { Client } from './client.js';
import { entryOf, ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { dryBatch } from './oneBatch.js';

interface Reply {
  readonly status: number;
  readonly body: { code?: string; detail?: string; facts?: { seconds?: number } } & Record<string, unknown>;
  readonly cookies: string[];
}

describe('who comes in', () => {
  let house: TestHouse;
  let proxied: Server;
  beforeAll(async () => {
    house = await openHouse('spec_who');
    // The same house behind a proxy that says where each request comes from.
    const { db, pool } = house.connection;
    proxied = createServer(
      createApp(
        {
          db,
          reader: house.connection.reader,
          now: () => new Date(),
          live: listen(house.connection.appUrl, () => undefined),
          limits: new SignInLimits(db, pool),
          address: 'https://house.example',
        },
        { log: pino({ level: 'silent' }), proxied: true },
      ).callback() as RequestListener,
    );
    await new Promise<void>((resolve) => proxied.listen(0, '127.0.0.1', resolve));
  });
  afterAll(async () => {
    proxied.close();
    proxied.closeAllConnections();
    await house.close();
  });
  afterEach(() => house.connection.pool.query('delete from rate_limit'));

  const ask = (
    server: Server,
    method: string,
    path: string,
    options: { body?: unknown; headers?: Record<string, string> } = {},
  ): Promise<Reply> =>
    new Promise((resolve, reject) => {
      const text = options.body === undefined ? undefined : JSON.stringify(options.body);
      const out = request(
        {
          hostname: '127.0.0.1',
          port: (server.address() as { port: number }).port,
          method,
          path,
          agent: false,
          headers: { ...(text === undefined ? {} : { 'content-type': 'application/json' }), ...options.headers },
        },
        (reply) => {
          let said = '';
          reply.on('data', (data: Buffer) => {
            said += data.toString();
          });
          reply.on('end', () =>
            resolve({
              status: reply.statusCode!,
              body: JSON.parse(said || '{}') as Reply['body'],
              cookies: reply.headers['set-cookie'] ?? [],
            }),
          );
        },
      );
      out.on('error', reject);
      out.end(text);
    });
  const signIn = (personId: string, pin: string, headers: Record<string, string> = {}) =>
    ask(house.server, 'POST', '/api/session', { body: { personId, pin }, headers });
  const from = (address: string, personId: string, pin: string, headers: Record<string, string> = {}) =>
    ask(proxied, 'POST', '/api/session', {
      body: { personId, pin },
      headers: { host: 'house.example', 'x-forwarded-for': address, 'x-forwarded-proto': 'https', ...headers },
    });
  const cookieOf = (reply: Reply): string => reply.cookies.map((one) => one.split(';')[0]).join('; ');

  describe('guessing a PIN', () => {
    it('ten thousand guesses take over a year by the limits, and 2,000 from 64 connections get no further', async () => {
      expect(daysToGuess(10_000)).toBeGreaterThan(366);
      const { id } = house.maker;
      const answers = new Map<string, number>();
      let sent = 0;
      await Promise.all(
        Array.from({ length: 64 }, async () => {
          while (sent < 2000) {
            const reply = await signIn(id, String(3000 + (sent += 1)));
            answers.set(reply.body.code ?? 'in', (answers.get(reply.body.code ?? 'in') ?? 0) + 1);
          }
        }),
      );
      const tried = LIMITS.find(({ prefix }) => prefix === 'here')!.points;
      expect(answers.get('who.wrongPin')).withContext('derived at all').toBe(tried);
      expect((answers.get('who.locked') ?? 0) + (answers.get('who.tooOften') ?? 0)).toBe(sent - tried);
      expect(answers.has('in')).toBeFalse();
      // The right one is not let in meanwhile, and is told until when.
      const right = await signIn(id, PIN);
      expect(right.body.code).toMatch(/^who\.(locked|tooOften)$/);
      expect(right.body.facts!.seconds!).toBeLessThanOrEqual(5 * 60);
    }, 60_000);

    it('keys are derived one of each address at a time: who comes second waits for no queue of another', async () => {
      const kept = await hashPin('2468');
      let done = 0;
      const flood = Array.from({ length: 24 }, async () => {
        await pinMatches('0000', kept, 'flood');
        done += 1;
      });
      expect(await pinMatches('2468', kept, 'elsewhere')).toBeTrue();
      expect(done).toBeLessThanOrEqual(3);
      await Promise.all(flood);
    });

    it('while one address guesses, others sign in, and the owner is in from elsewhere', async () => {
      let on = true;
      const flood = Promise.all(
        Array.from({ length: 40 }, async (_, line) => {
          while (on) await from('203.0.113.7', line % 2 ? house.maker.id : ids.next(), '123456');
        }),
      );
      await new Promise((resolve) => setTimeout(resolve, 200));
      const others: Reply[] = [];
      for (let turn = 0; turn < 6; turn += 1) others.push(await signIn(house.owner.id, PIN));
      on = false;
      await flood;
      expect(others.map(({ status }) => status)).toEqual(Array(6).fill(200));
    }, 30_000);

    it('a person guessed at from fifty addresses is kept out elsewhere for a minute at most, on a known device not at all', async () => {
      await setPin(house.connection.db, house.owner.id, '864209');
      const known = await from('198.51.100.1', house.owner.id, '864209');
      expect(known.status).toBe(200);
      for (let address = 0; address < 50; address += 1) await from(`203.0.113.${address}`, house.owner.id, '000001');
      const elsewhere = await from('198.51.100.9', house.owner.id, '864209');
      if (elsewhere.status !== 200) expect(elsewhere.body.facts!.seconds!).toBeLessThanOrEqual(60);
      expect((await from('198.51.100.1', house.owner.id, '864209', { cookie: cookieOf(known) })).status).toBe(200);
      await setPin(house.connection.db, house.owner.id, PIN);
    });

    it('an owner sees a lock and ends it; nobody else does', async () => {
      for (let turn = 0; turn < 6; turn += 1) await signIn(house.maker.id, '9999');
      expect((await signIn(house.maker.id, PIN)).body.code).toBe('who.locked');
      const owner = await Client.signIn(house, house.owner);
      const { locks } = peopleReply.parse((await owner.get('/api/people')).body);
      expect(locks).toEqual([jasmine.objectContaining({ personId: house.maker.id, here: true }) as never]);
      const cookie = cookieOf(await signIn(house.owner.id, PIN));
      expect(
        (await ask(house.server, 'DELETE', `/api/people/${house.maker.id}/locks`, { headers: { cookie } })).status,
      ).toBe(200);
      const maker = await signIn(house.maker.id, PIN);
      expect(maker.status).toBe(200);
      expect(
        (
          await ask(house.server, 'DELETE', `/api/people/${house.maker.id}/locks`, {
            headers: { cookie: cookieOf(maker) },
          })
        ).body.code,
      ).toBe('who.notAllowed');
      expect((await ask(house.server, 'GET', '/api/people', { headers: { cookie: cookieOf(maker) } })).body.code).toBe(
        'who.notAllowed',
      );
    });
    it('right PINs are not counted: nobody locks themselves out by working', async () => {
      for (let turn = 0; turn < 12; turn += 1) expect((await signIn(house.owner.id, PIN)).status).toBe(200);
    });
  });

  describe('rights, cell by cell', () => {
    const rights = rightsReply.parse(readRights()).rights;
    // What a person of a role is told when they record this: an empty body, so that nothing but the role can let it in.
    const answered = async (kind: EntryKind, role: 'owner' | 'maker' | 'inspector'): Promise<string> => {
      const entry = entryOf(kind, {} as never, house[role].id);
      const recorded = recordEntries(house.connection.db, {
        entries: [entry],
        actor: { id: house[role].id, role },
        now: new Date(),
      });
      return recorded.then(
        () => 'recorded',
        (error: unknown) => (error instanceof Refused ? error.refusal.code : 'another fault'),
      );
    };

    it('every kind that a person records stands there once', () => {
      const kinds = rights.map(({ key }) => key).filter((key) => (ENTRY_KINDS as readonly string[]).includes(key));
      expect(new Set(kinds).size).toBe(kinds.length);
      expect(ENTRY_KINDS.filter((kind) => !kinds.includes(kind)).sort()).toEqual(['hold.anew', 'hold.byRule']);
    });
    for (const right of rights) {
      const kind = ENTRY_KINDS.find((one) => one === right.key);
      if (!kind) continue;
      for (const role of ['owner', 'maker', 'inspector'] as const)
        it(`${role} ${right[role] ? 'may' : 'may not'}: ${kind}`, async () => {
          const refused = (await answered(kind, role)) === 'who.notAllowed';
          expect(refused).toBe(!right[role]);
        });
    }
    it('who comes in and the record are asked of an owner only', async () => {
      for (const [path, key] of [
        ['/api/people', 'people'],
        ['/api/verification', 'record'],
        ['/api/lots', 'read'],
      ] as const) {
        const right = rights.find((one) => one.key === key)!;
        for (const role of ['owner', 'maker', 'inspector'] as const) {
          const { status } = await (await Client.signIn(house, house[role])).get(path);
          expect(status === 403)
            .withContext(`${role} ${path}`)
            .toBe(!right[role]);
        }
      }
    });
  });

  describe('how long a PIN is', () => {
    const cases: readonly (readonly [string, boolean, boolean])[] = [
      ['2468', true, false],
      ['24681', true, false],
      ['246813', true, true],
      ['1234', false, false],
      ['0000', false, false],
      ['987654', false, true],
      ['abc', false, true],
      ['a long passphrase', true, true],
      ['123', false, false],
      ['135791357913579135', true, true],
      ['12345678', false, true],
      ['short one', false, true],
    ];
    for (const [pin, taken, anywhere] of cases)
      it(`“${pin}”: ${taken ? 'taken' : 'not taken'}, ${anywhere ? 'enough' : 'not enough'} on a strange device`, () =>
        expect([pinFault(pin) === null, isLongEnough(pin)]).toEqual([taken, anywhere]));
    it('four figures are enough on the machine itself and on a device that knows the person, elsewhere not', async () => {
      const strange = await from('198.51.100.20', house.maker.id, PIN);
      expect(strange.body.code).toBe('who.longerPin');
      expect(strange.body.detail).toContain('six figures');
      expect((await signIn(house.maker.id, PIN)).status).toBe(200);
      await setPin(house.connection.db, house.maker.id, '777123');
      const known = await from('198.51.100.21', house.maker.id, '777123');
      await setPin(house.connection.db, house.maker.id, PIN);
      expect((await from('198.51.100.22', house.maker.id, PIN, { cookie: cookieOf(known) })).status).toBe(200);
    });
    it('a house may ask a passphrase on other devices, of owners or of everybody: never at the machine itself', async () => {
      await setPin(house.connection.db, house.maker.id, '777123');
      const set = (passphraseFor: 'nobody' | 'owners' | 'everybody') => house.record('house.set', { passphraseFor });
      await set('owners');
      expect((await from('198.51.100.25', house.maker.id, '777123')).status).toBe(200);
      await set('everybody');
      const asked = await from('198.51.100.26', house.maker.id, '777123');
      expect([asked.body.code, asked.body.detail]).toEqual([
        'who.longerPin',
        jasmine.stringContaining('this house asks a passphrase of you'),
      ]);
      expect((await signIn(house.maker.id, '777123')).status).toBe(200);
      await setPin(house.connection.db, house.maker.id, 'seven crocks of kohlrabi');
      expect((await from('198.51.100.27', house.maker.id, 'seven crocks of kohlrabi')).status).toBe(200);
      await set('nobody');
      await setPin(house.connection.db, house.maker.id, PIN);
    });
    it('a forged note of another address makes nobody local: without a proxy in the settings it is taken for a strange device', async () => {
      expect((await signIn(house.maker.id, PIN, { 'x-forwarded-for': '127.0.0.1' })).body.code).toBe('who.longerPin');
    });
  });

  describe('from where', () => {
    it('what changes something is refused from another site or under another name', async () => {
      const cookie = cookieOf(await signIn(house.maker.id, PIN));
      const { port } = house.server.address() as { port: number };
      for (const headers of [
        { origin: 'https://elsewhere.example' },
        { host: 'elsewhere.example' },
        { origin: 'null' },
        { origin: `http://127.0.0.1:${port + 1}` },
        { host: `127.0.0.1:${port}`, origin: `https://127.0.0.1:${port}` },
      ] as Record<string, string>[]) {
        for (const [method, path] of [
          ['POST', '/api/entries'],
          ['DELETE', '/api/session'],
          ['POST', '/api/calendar'],
          ['POST', '/api/session'],
        ] as const) {
          expect(
            (
              await ask(house.server, method, path, {
                ...(method === 'POST' ? { body: {} } : {}),
                headers: { cookie, ...headers },
              })
            ).body.code,
          )
            .withContext(`${method} ${path} ${JSON.stringify(headers)}`)
            .toBe('who.origin');
        }
      }
      expect(
        (
          await ask(house.server, 'POST', '/api/calendar', {
            body: {},
            headers: { cookie, origin: `http://localhost:${port}`, host: `localhost:${port}` },
          })
        ).status,
      ).toBe(200);
    });
    it('the calendar’s address is the house’s, whatever the request says; behind an encrypted line cookies go over that alone', async () => {
      const opened = await from('198.51.100.30', house.owner.id, '2468', {});
      expect(opened.body.code).toBe('who.longerPin');
      await setPin(house.connection.db, house.owner.id, '864209');
      const owner = await from('198.51.100.30', house.owner.id, '864209');
      expect(
        owner.cookies.every(
          (cookie) => /; secure/i.test(cookie) && /; httponly/i.test(cookie) && /; samesite=strict/i.test(cookie),
        ),
      ).toBeTrue();
      const made = await ask(proxied, 'POST', '/api/calendar', {
        body: {},
        headers: {
          host: 'house.example',
          'x-forwarded-host': 'evil.example',
          'x-forwarded-proto': 'https',
          origin: 'https://house.example',
          cookie: cookieOf(owner),
        },
      });
      expect(made.body['address']).toMatch(/^https:\/\/house\.example\/calendar\//);
      await setPin(house.connection.db, house.owner.id, PIN);
    });
    it('the address an owner sets is the house’s: taken from there, in the calendar and on labels, and from nowhere else', async () => {
      const owner = await Client.signIn(house, house.owner);
      const cookie = cookieOf(await signIn(house.owner.id, PIN));
      const sent = (host: string, origin: string) =>
        ask(house.server, 'POST', '/api/calendar', { body: {}, headers: { cookie, host, origin } });
      expect((await sent('cellar.example:8080', 'http://cellar.example:8080')).body.code).toBe('who.origin');
      for (const address of [
        'cellar.example',
        'ftp://cellar.example',
        'http://cellar.example/page',
        'http://cellar.example?x',
        'javascript:alert(1)',
        '',
      ]) {
        expect((await owner.record('house.set', { address })).status)
          .withContext(address)
          .toBe(400);
      }
      expect(
        (await (await Client.signIn(house, house.maker)).record('house.set', { address: 'http://maker.example' })).body
          .code,
      ).toBe('who.notAllowed');
      await owner.record('house.set', { address: 'http://Cellar.example:8080' });
      const made = await sent('cellar.example:8080', 'http://cellar.example:8080');
      expect(made.body['address']).toMatch(/^http:\/\/cellar\.example:8080\/calendar\//);
      expect((await sent('cellar.example:8081', 'http://cellar.example:8081')).body.code).toBe('who.origin');
      expect((await owner.get<{ settings: { address: string | null } }>('/api/house')).body.settings.address).toBe(
        'http://Cellar.example:8080',
      );
      await owner.record('house.set', { address: 'https://cellar.example' });
      expect((await signIn(house.maker.id, PIN)).cookies.every((one) => /; secure/i.test(one)))
        .withContext('behind an encrypted line')
        .toBeTrue();
      await owner.record('house.set', { address: null });
      expect((await sent('cellar.example:8080', 'http://cellar.example:8080')).body.code).toBe('who.origin');
    });
    it('ids are the same in small and capital letters', async () => {
      const maker = await Client.signIn(house, house.maker);
      const batch = await dryBatch(house, { tag: 'C1' });
      const id = ids.next();
      const entry = {
        id,
        kind: 'temperature.read',
        happenedAt: new Date().toISOString(),
        by: house.maker.id,
        device: 'spec',
        body: { lotId: batch.fillId, celsius: 18 },
      };
      const loud = {
        ...entry,
        id: id.toUpperCase(),
        by: house.maker.id.toUpperCase(),
        body: { ...entry.body, lotId: batch.fillId.toUpperCase() },
      };
      expect((await maker.post({ entries: [loud] })).status).toBe(200);
      expect((await maker.post({ entries: [entry] })).body.recorded[0]!.repeated).toBeTrue();
      expect((await maker.get(`/api/making/${batch.batchId.toUpperCase()}`)).status).toBe(200);
    });
  });

  describe('leaving', () => {
    /** A live line: resolves with what was said until it ended. */
    const liveLine = (cookie: string): { ended: Promise<string>; open: Promise<void> } => {
      let opened: () => void;
      const open = new Promise<void>((resolve) => {
        opened = resolve;
      });
      const ended = new Promise<string>((resolve, reject) => {
        const out = request(
          {
            hostname: '127.0.0.1',
            port: (house.server.address() as { port: number }).port,
            path: '/api/live',
            headers: { cookie },
          },
          (reply) => {
            let said = '';
            opened();
            reply.on('data', (data: Buffer) => {
              said += data.toString();
            });
            reply.on('end', () => resolve(said));
          },
        );
        out.on('error', reject);
        out.end();
      });
      return { ended, open };
    };
    const session = async (cookie: string) =>
      (await ask(house.server, 'GET', '/api/session', { headers: { cookie } })).body['person'];

    it('sign-out ends the live line of that tablet, not of another', async () => {
      const [one, other] = [cookieOf(await signIn(house.maker.id, PIN)), cookieOf(await signIn(house.maker.id, PIN))];
      const line = liveLine(one);
      await line.open;
      await ask(house.server, 'DELETE', '/api/session', { headers: { cookie: one } });
      expect(await line.ended).toContain('event: ended');
      expect(await session(other)).not.toBeNull();
    });
    it('a changed PIN ends every other sign-in of that person, and the old one is worth nothing', async () => {
      const [one, other] = [cookieOf(await signIn(house.maker.id, PIN)), cookieOf(await signIn(house.maker.id, PIN))];
      const line = liveLine(other);
      await line.open;
      const change = (old: string, pin: string) =>
        ask(house.server, 'POST', '/api/session/pin', { body: { old, pin }, headers: { cookie: one } });
      expect((await change('1111', '951753')).body.code).toBe('who.wrongPin');
      expect((await change(PIN, '1234')).body.detail).toContain('first that anybody would try');
      expect((await change(PIN, '951753')).status).toBe(200);
      expect(await line.ended).toContain('event: ended');
      expect(await session(other)).toBeNull();
      expect(await session(one)).not.toBeNull();
      expect((await signIn(house.maker.id, PIN)).body.code).toBe('who.wrongPin');
      expect((await signIn(house.maker.id, '951753')).status).toBe(200);
      // The device it was changed on knows its person still.
      await setPin(house.connection.db, house.maker.id, PIN);
      expect((await from('198.51.100.40', house.maker.id, PIN, { cookie: one })).status).toBe(200);
      expect((await from('198.51.100.40', house.maker.id, PIN, { cookie: other })).body.code).toBe('who.longerPin');
      await setPin(house.connection.db, house.maker.id, PIN);
    });
    it('a colleague leaves: the tablet goes dark, nobody signs in as them, their entries keep their name, the last owner stays', async () => {
      const leaver = ids.next();
      await house.record('person.add', { personId: leaver, name: 'Leaving person', initials: 'LP', role: 'maker' });
      await setPin(house.connection.db, leaver, '2846');
      const cookie = cookieOf(await signIn(leaver, '2846'));
      const line = liveLine(cookie);
      await line.open;
      const owner = await Client.signIn(house, house.owner);
      expect((await owner.record('person.leave', { personId: leaver, left: true, reason: 'Moved on' })).status).toBe(
        200,
      );
      expect(await line.ended).toContain('event: ended');
      expect(await session(cookie)).toBeNull();
      expect((await signIn(leaver, '2846')).body.code).toBe('who.wrongPin');
      const { people } = (await owner.get<{ people: { id: string }[] }>('/api/sign-in')).body;
      expect(people.some(({ id }) => id === leaver)).toBeFalse();
      expect(
        peopleReply.parse((await owner.get('/api/people')).body).people.find(({ id }) => id === leaver)!.leftAt,
      ).not.toBeNull();
      expect((await owner.record('person.leave', { personId: leaver, left: true, reason: null })).body.code).toBe(
        'correction.nothingChanged',
      );
      expect(
        (await owner.record('person.leave', { personId: house.owner.id, left: true, reason: null })).body.detail,
      ).toContain('only owner');
      expect(
        (await owner.record('person.leave', { personId: leaver, left: false, reason: 'Back for the season' })).status,
      ).toBe(200);
      expect((await owner.send('POST', `/api/people/${leaver}/pin`, { pin: '1234' })).status).toBe(400);
      expect((await owner.send('POST', `/api/people/${house.owner.id}/pin`, { pin: '864213' })).status).toBe(403);
      expect((await owner.send('POST', `/api/people/${leaver}/pin`, { pin: '5173' })).status).toBe(200);
      expect((await signIn(leaver, '5173')).status).toBe(200);
      const maker = await Client.signIn(house, house.maker);
      expect((await maker.send('POST', `/api/people/${leaver}/pin`, { pin: '5173' })).status).toBe(403);
      expect(
        (await maker.record('person.leave', { personId: house.owner.id, left: true, reason: null })).body.code,
      ).toBe('who.notAllowed');
    });
  });
});
