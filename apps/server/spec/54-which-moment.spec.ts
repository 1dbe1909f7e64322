import { lotReply, runReply, type RunReply } from '@clear-tally/contract';
import { Refused } from '../src/journal/refused.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, readWell, sour } from './oneBatch.js';

const HOUR = 3_600_000;
const hoursAgo = (hours: number): Date => new Date(Date.now() - hours * HOUR);

describe('which moment counts, and which row', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  /** A vessel that was packed from, and still holds some. */
  let vessel: string;
  const [ladle, grocer] = [ids.next(), ids.next()];
  const packedAt = daysAgo(9);
  type Vessel = 'C1' | 'C2' | 'D1' | 'D2' | 'G1';

  const packed = async (tag: Vessel, more: object = {}) => {
    const grams = tag === 'G1' ? 3000 : 9000;
    const { fillId, batchId } = await dryBatch(house, {
      tag,
      at: daysAgo(40),
      produceGrams: grams,
      saltGrams: grams * 0.022,
    });
    await sour(house, fillId, daysAgo(40), packedAt);
    const runLotId = ids.next();
    const body = {
      runLotId,
      from: [{ fillLotId: fillId, grams: 2560, empties: false }],
      jars: [{ sizeMl: 330, netGrams: 320, count: 8 }],
      sampleGrams: 0,
      leftoverGrams: 0,
      wasteGrams: 0,
      tallyReason: null,
      brine: 'own' as const,
      storage: 'cold' as const,
      ...more,
    };
    const recorded = await house.record('pack.run', body, { at: packedAt, by: house.maker });
    return { runLotId, fillId, batchId, body, entryId: recorded.id, code: String(recorded.facts['code']) };
  };
  type Run = Awaited<ReturnType<typeof packed>>;
  const page = async ({ code }: Run): Promise<RunReply> => runReply.parse((await owner.get(`/api/runs/${code}`)).body);
  const state = async (run: Run, key: string) =>
    (await page(run)).conditions.find((condition) => condition.key === key)!;
  const sign = async (kind: 'run.release' | 'run.withdraw', body: object, at?: Date) => {
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    return owner.record(kind, body as never, at);
  };
  const release = (run: Run, at?: Date) =>
    sign('run.release', { runLotId: run.runLotId, excuses: { checks: 'seen' } }, at);
  const send = (run: Run, first: number, last: number, customerId = ladle, at = new Date()) =>
    maker.record(
      'jars.dispatch',
      { dispatchId: ids.next(), customerId, jars: [{ runLotId: run.runLotId, first, last }], note: null },
      at,
    );

  beforeAll(async () => {
    house = await openHouse('spec_which_moment');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    for (const [customerId, name] of [
      [ladle, 'The Copper Ladle'],
      [grocer, 'Three Bridges Grocer'],
    ] as const)
      await house.record('customer.add', { customerId, name, customerKind: 'shop', address: null, contact: null });
  }, 60_000);
  afterAll(() => house.close());

  describe('a release and its jars', () => {
    let run: Run;
    beforeAll(async () => {
      run = await packed('C1');
    }, 60_000);
    it('a signature is of the moment it is made, with ten minutes for a slow clock', async () => {
      expect((await release(run, daysAgo(2))).body.code).toBe('time.signature');
      expect((await release(run, new Date(Date.now() - 9 * 60_000))).status).toBe(200);
      const [signed] = (await page(run)).signatures;
      expect(Math.abs(Date.parse(signed!.at) - Date.now())).toBeLessThan(120_000);
    });
    it('nothing left before the release was recorded, whatever moment is named', async () => {
      const early = await send(run, 1, 1, ladle, daysAgo(3));
      expect([early.body.code, early.body.field]).toEqual(['jar.notReleased', 'happenedAt']);
      expect((await send(run, 1, 1)).status).toBe(200);
    });
    it('a jar that is gone is gone for every later entry, also for one said of before', async () => {
      expect((await send(run, 1, 2, grocer, new Date(Date.now() - 5 * 60_000))).body.code).toBe('jar.notHere');
      expect(
        (
          await maker.record(
            'jars.out',
            { jars: [{ runLotId: run.runLotId, first: 1, last: 1 }], how: 'broken', note: null },
            daysAgo(4),
          )
        ).body.code,
      ).toBe('jar.notHere');
    });
    it('one code in one crate is one jar', async () => {
      const jars = [3, 3].map((serial) => ({ runLotId: run.runLotId, first: serial, last: serial }));
      const twice = await maker.record('jars.dispatch', {
        dispatchId: ids.next(),
        customerId: ladle,
        jars,
        note: null,
      });
      expect(twice.body.code).toBe('jar.twice');
      const overlapping = [
        { runLotId: run.runLotId, first: 3, last: 5 },
        { runLotId: run.runLotId, first: 5, last: 6 },
      ];
      expect(
        (
          await maker.record('jars.dispatch', {
            dispatchId: ids.next(),
            customerId: ladle,
            jars: overlapping,
            note: null,
          })
        ).body.code,
      ).toBe('jar.twice');
    });
    it('what was excused stands as excused, and nobody is asked to sign what is signed', async () => {
      const { conditions, openSince } = await page(run);
      expect(conditions.filter(({ state: stands }) => stands === 'open')).toEqual([]);
      expect(conditions.find(({ key }) => key === 'review')!.now).toContain('Ow');
      expect(openSince).toEqual([]);
    });
    it('a withdrawal stops from its recording on, also when the release came from a clock ahead', async () => {
      const ahead = await packed('C2');
      expect((await release(ahead, new Date(Date.now() + 4 * 60_000))).status).toBe(200);
      expect((await sign('run.withdraw', { runLotId: ahead.runLotId, reason: 'a bad smell' })).status).toBe(200);
      expect((await page(ahead)).run.state).toBe('withdrawn');
      expect((await send(ahead, 1, 1)).body.code).toBe('jar.notReleased');
      // In any order of the two moments, each said up to nine minutes apart, the one recorded last stands.
      for (const [first, then] of [
        [4, -9],
        [-9, 4],
        [0, -1],
      ] as const) {
        await release(ahead, new Date(Date.now() + first * 60_000));
        expect((await page(ahead)).run.state).toBe('released');
        await sign('run.withdraw', { runLotId: ahead.runLotId, reason: 'again' }, new Date(Date.now() + then * 60_000));
        expect((await page(ahead)).run.state)
          .withContext(`${first}, ${then}`)
          .toBe('withdrawn');
      }
    });
  });

  it('a packing line that was put right reaches the list of the release, and opens what is released', async () => {
    const run = await packed('D1');
    const correct = (body: Record<string, unknown>) =>
      owner.record('entry.correct', {
        corrects: run.entryId,
        reason: 'another line',
        instead: { kind: 'pack.run', body },
      });
    expect((await release(run)).status).toBe(200);
    expect((await correct({ ...run.body, brine: 'fresh' })).status).toBe(200);
    expect((await state(run, 'equilibrium')).state).toBe('open');
    expect((await page(run)).openSince.length).toBe(1);
    expect((await send(run, 1, 1)).body.code).toBe('release.open');
    // A correction of the correction.
    expect((await correct(run.body)).status).toBe(200);
    expect((await state(run, 'equilibrium')).state).toBe('met');
    expect((await send(run, 1, 1)).status).toBe(200);
    // And what rests on another entry that was put right keeps what was said at packing.
    const { lines } = lotReply.parse((await owner.get(`/api/lots/${run.code}`)).body);
    vessel = `${run.code.replace(/-\d\d$/, '')}-D1`;
    const filled = await owner.get<{ lines: { entryId: string; kind: string }[] }>(`/api/lots/${vessel}`);
    expect(lines.length).toBeGreaterThan(1);
    const salt = filled.body.lines.find(({ kind }) => kind === 'salt.weigh')!;
    const said = (await owner.get<{ body: Record<string, unknown> }>(`/api/entries/${salt.entryId}`)).body.body;
    const put = await owner.record('entry.correct', {
      corrects: salt.entryId,
      reason: 'read again',
      instead: { kind: 'salt.weigh', body: { ...said, grams: 199 } },
    });
    expect(put.status).withContext(JSON.stringify(put.body)).toBe(200);
    expect([(await page(run)).run.storage, (await state(run, 'equilibrium')).state]).toEqual(['cold', 'met']);
  });

  it('a calibration written down after a reading makes it fit by no date of its own, and by no correction', async () => {
    const { fillId } = await dryBatch(house, { tag: 'D2', at: daysAgo(20), produceGrams: 9000, saltGrams: 198 });
    const meterId = ids.next();
    await house.record('meter.add', { meterId, tag: 'M9', name: 'Pen', kind: 'meter' }, { at: daysAgo(20) });
    const read = await maker.record('ph.read', { lotId: fillId, ph: 4.0, sample: 'blended', meterId }, hoursAgo(10));
    expect(read.body.recorded![0]!.facts['forRelease']).toBeFalse();
    await house.record(
      'meter.calibrate',
      {
        meterId,
        celsius: 20,
        by: {
          how: 'buffers',
          buffers: [
            { ph: 7, millivolts: 2 },
            { ph: 4.01, millivolts: 172 },
          ],
        },
        check: { buffer: 4.01, read: 4.02 },
      },
      { at: hoursAgo(11), by: house.maker },
    );
    const put = await maker.record('entry.correct', {
      corrects: read.body.recorded![0]!.id,
      reason: 'typed wrong',
      right: { kind: 'ph.read', ph: 4.01, sample: 'blended' },
    });
    expect(put.status).withContext(JSON.stringify(put.body)).toBe(200);
    const found = await house.connection.pool.query<{ for_release: boolean }>(
      'select for_release from live_reading where lot_id = $1',
      [fillId],
    );
    expect(found.rows).toEqual([{ for_release: false }]);
    // One that is read afterwards is fit.
    await readWell(house, fillId, 4.0, hoursAgo(1));
  });

  it('what is said of an earlier moment was packable by what had been read by then', async () => {
    const { fillId } = await dryBatch(house, { tag: 'G1', at: daysAgo(30), produceGrams: 3000, saltGrams: 66 });
    await sour(house, fillId, daysAgo(30), hoursAgo(1));
    const pack = (at: Date): Promise<string> =>
      packJars(house, fillId, 2, { at }).then(
        () => 'recorded',
        (error: unknown) => (error instanceof Refused ? error.refusal.code : String(error)),
      );
    expect(await pack(hoursAgo(20))).toBe('pack.twoReadings');
    expect(await pack(new Date())).toBe('recorded');
  });

  it('a room is asked by where a vessel was moved as it was put right, not as it was written first', async () => {
    const [loft, store, porch] = [ids.next(), ids.next(), ids.next()];
    for (const [roomId, name] of [
      [loft, 'Loft'],
      [store, 'Store'],
      [porch, 'Porch'],
    ] as const)
      await house.record('room.add', { roomId, name, usualCelsius: 14, position: 5 });
    const { lotId } = (await maker.get<{ lotId: string }>(`/api/lots/${vessel}`)).body;
    const moved = await house.record('vessel.move', { lotId, roomId: loft }, { at: hoursAgo(5) });
    // Moved on since: what the room says rests on the entry alone.
    await house.record('vessel.move', { lotId, roomId: porch }, { at: hoursAgo(4) });
    const stood = async (roomId: string): Promise<boolean> =>
      JSON.stringify((await owner.get(`/api/asked-by/room/${roomId}`)).body).includes(vessel);
    expect([await stood(loft), await stood(store)]).toEqual([true, false]);
    const correct = async (instead: object | null) => {
      const put = await owner.record('entry.correct', {
        corrects: moved.id,
        reason: 'the other door',
        instead,
      } as never);
      expect(put.status).withContext(JSON.stringify(put.body)).toBe(200);
    };
    await correct({ kind: 'vessel.move', body: { lotId, roomId: store } });
    expect([await stood(loft), await stood(store)]).toEqual([false, true]);
    await correct(null);
    expect([await stood(loft), await stood(store)]).toEqual([false, false]);
  });

  it('a limit loosened later reaches nothing that has begun; a stricter one does, and stays', async () => {
    const limit = async (): Promise<number> => lotReply.parse((await maker.get(`/api/lots/${vessel}`)).body).acidLimit;
    const set = (option: string) => house.record('house.rule', { rule: 'acidLimit', option, reason: 'for this test' });
    expect(await limit()).toBe(4.2);
    await set('4.5');
    expect(await limit()).toBe(4.2);
    await set('3.8');
    expect(await limit()).toBe(3.8);
    await set('4.2');
    expect(await limit()).toBe(3.8);
  });
});
