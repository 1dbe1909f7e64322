import { houseReply, peopleReply, signInReply } from '@clear-tally/contract';
import { createServer, type RequestListener, type Server } from 'node:http';
import { pino } from 'pino';
import { connect, type Connection } from '../src/db/database.js';
import { listen } from '../src/db/live.js';
import { migrateTables } from '../src/db/migrate.js';
import { createApp } from '../src/http/app.js';
import { SignInLimits } from '../src/session/limits.js';
import { Client } from './client.js';
import { bareDatabase } from './databases.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

describe('a house of one’s own', () => {
  let connection: Connection;
  let server: Server;
  let live: ReturnType<typeof listen>;
  let over = 0;
  const asked = {
    house: { name: 'Two Elms', site: 'TE', timeZone: 'Europe/Dublin', decimalMark: 'comma' },
    owner: { name: 'A. Body', initials: 'AB', pin: '7351' },
  };
  const ask = async (method: string, path: string, body?: unknown, cookie = '', more: Record<string, string> = {}) => {
    const { port } = server.address() as { port: number };
    const reply = await fetch(`http://127.0.0.1:${port}${path}`, {
      method,
      headers: { 'content-type': 'application/json', cookie, ...more },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    return { status: reply.status, body: (await reply.json()) as Record<string, unknown>, headers: reply.headers };
  };
  let cookie = '';
  let ownerId = '';

  beforeAll(async () => {
    const { ownerUrl, appUrl } = await bareDatabase('spec_founding');
    await migrateTables(ownerUrl, 'apps/server/migrations');
    connection = connect(appUrl);
    live = listen(appUrl, () => undefined);
    const app = createApp(
      {
        db: connection.db,
        reader: connection.reader,
        now: () => new Date(),
        live,
        limits: new SignInLimits(connection.db, connection.pool),
        goOver: () => {
          over += 1;
        },
      },
      { log: pino({ level: 'silent' }) },
    );
    server = createServer(app.callback() as RequestListener);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  }, 60_000);
  afterAll(async () => {
    server.closeAllConnections();
    server.close();
    await live.close();
    await connection.close();
  });

  it('an empty ledger says so, and the demo house is a press away', async () => {
    const reply = signInReply.parse((await ask('GET', '/api/sign-in')).body);
    expect([reply.house, reply.people.length, reply.demoPins, reply.other]).toEqual([null, 0, null, 'demo']);
    expect((await ask('POST', '/api/other-house', {})).status).toBe(200);
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(over).toBe(1);
  });
  it('what cannot be is refused in words, and nothing is founded', async () => {
    const tried = async (house: object, owner: object = {}) =>
      ask('POST', '/api/found', { house: { ...asked.house, ...house }, owner: { ...asked.owner, ...owner } });
    expect((await tried({ timeZone: 'Middle/Earth' })).body['detail']).toContain('no time zone of that name');
    expect((await tried({}, { pin: '1234' })).body['detail']).toContain('first that anybody would try');
    expect((await tried({ site: 'x' })).status).toBe(400);
    expect((await ask('POST', '/api/found', asked, '', { 'x-forwarded-for': '10.0.0.9' })).body['code']).toBe(
      'who.notAllowed',
    );
    expect(signInReply.parse((await ask('GET', '/api/sign-in')).body).house).toBeNull();
  });
  it('is founded once, with its owner signed in; from then on it is left with the start command alone', async () => {
    const founded = await ask('POST', '/api/found', asked);
    expect([founded.status, (founded.body['person'] as { role: string }).role]).toEqual([200, 'owner']);
    cookie = founded.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; ');
    ownerId = (founded.body['person'] as { id: string }).id;
    expect((await ask('POST', '/api/found', asked)).body['code']).toBe('name.taken');
    const house = houseReply.parse((await ask('GET', '/api/house', undefined, cookie)).body);
    expect([house.name, house.site, house.decimalMark, house.demo, house.acidLimit]).toEqual([
      'Two Elms',
      'TE',
      'comma',
      false,
      4.2,
    ]);
    expect(signInReply.parse((await ask('GET', '/api/sign-in')).body).other).toBeNull();
    expect((await ask('POST', '/api/other-house', {})).body['code']).toBe('who.notAllowed');
  });

  const record = async (kind: string, body: object) =>
    ask(
      'POST',
      '/api/entries',
      {
        entries: [{ id: ids.next(), kind, happenedAt: new Date().toISOString(), by: ownerId, device: 'spec', body }],
      },
      cookie,
    );
  const people = async () => peopleReply.parse((await ask('GET', '/api/people', undefined, cookie)).body).people;

  it('people come, are called otherwise, may less; the last owner stays one', async () => {
    const personId = ids.next();
    expect((await record('person.add', { personId, name: 'B. Else', initials: 'BE', role: 'owner' })).status).toBe(200);
    const change = (id: string, role: string) =>
      record('person.change', { personId: id, name: 'B. Other', initials: 'BO', role });
    expect((await change(personId, 'maker')).status).toBe(200);
    expect((await people()).map(({ name, role }) => `${name} ${role}`)).toEqual(['A. Body owner', 'B. Other maker']);
    const last = await change(ownerId, 'maker');
    expect([last.body['code'], last.body['detail']]).toEqual([
      'who.notAllowed',
      jasmine.stringContaining('A house needs one'),
    ]);
  });
  it('rooms and vessels are added and changed; two of one name or tag are refused', async () => {
    const [roomId, vesselId] = [ids.next(), ids.next()];
    const room = { roomId, name: 'Cellar', usualCelsius: 14, position: 0 };
    expect((await record('room.add', room)).status).toBe(200);
    expect((await record('room.add', { ...room, roomId: ids.next(), name: 'cellar' })).body['code']).toBe('name.taken');
    expect((await record('room.change', { ...room, usualCelsius: 12 })).status).toBe(200);
    const vessel = {
      vesselId,
      tag: 'C1',
      shape: 'crock',
      brimMl: 30_000,
      maxFill: 0.9,
      minFill: 0.5,
      weightVolumeMl: 350,
      closure: 'loose',
      roomId,
      inUse: true,
    };
    expect((await record('vessel.add', vessel)).status).toBe(200);
    expect((await record('vessel.add', { ...vessel, vesselId: ids.next() })).body['code']).toBe('name.taken');
    const changed = { ...vessel, brimMl: 28_500, inUse: false, reason: 'cracked at the rim' };
    expect((await record('vessel.change', { ...changed, tag: 'C2' })).body['code']).toBe('vessel.tagStays');
    expect((await record('vessel.change', changed)).status).toBe(200);
    const house = houseReply.parse((await ask('GET', '/api/house', undefined, cookie)).body);
    expect([house.rooms[0]!.usualCelsius, house.vessels[0]!.brimMl, house.vessels[0]!.inUse]).toEqual([
      12,
      28_500,
      false,
    ]);
  });
});

describe('a vessel that is changed', () => {
  let house: TestHouse;
  beforeAll(async () => {
    house = await openHouse('spec_registers');
  }, 60_000);
  afterAll(() => house.close());

  it('goes out of use and cannot be filled; the change is put right like everything else', async () => {
    const owner = await Client.signIn(house, house.owner);
    const reply = houseReply.parse((await owner.get('/api/house')).body);
    const of = reply.vessels.find(({ tag }) => tag === 'C2')!;
    const { tag, shape, brimMl, maxFill, minFill, weightVolumeMl, closure, roomId } = of;
    const changed = await owner.record('vessel.change', {
      vesselId: of.id,
      tag,
      shape,
      brimMl,
      maxFill,
      minFill,
      weightVolumeMl,
      closure,
      roomId,
      inUse: false,
      reason: 'under repair',
    });
    expect(changed.status).withContext(JSON.stringify(changed.body)).toBe(200);
    await expectAsync(dryBatch(house, { tag: 'C2', at: daysAgo(3) })).toBeRejected();
    const back = await owner.record('entry.correct', {
      corrects: changed.body.recorded[0]!.id,
      reason: 'it was C1',
      instead: null,
    });
    expect(back.status).withContext(JSON.stringify(back.body)).toBe(200);
    const now = houseReply.parse((await owner.get('/api/house')).body).vessels.find(({ id }) => id === of.id)!;
    expect(now.inUse).toBeTrue();
  });
  it('a maker changes no room, vessel or person', async () => {
    const maker = await Client.signIn(house, house.maker);
    const tried = await maker.record('room.change', {
      roomId: house.names.room,
      name: 'Mine',
      usualCelsius: 10,
      position: 0,
    });
    expect(tried.body.code).toBe('who.notAllowed');
  });
});
