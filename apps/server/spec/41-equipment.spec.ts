import type { BodyOf, EquipmentReply, LotReply, PeopleReply, UntrainedReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

const HOUR = 3_600_000;

describe('equipment, sanitiser and training', () => {
  let house: TestHouse;
  let owner: Client;
  let maker: Client;
  const scale: BodyOf<'equipment.add'> = {
    equipmentId: ids.next(),
    kind: 'scale',
    tag: 'SC1',
    name: 'Bench scale',
    roomId: null,
    capacityGrams: 6000,
    stepGrams: 1,
    count: null,
    words: null,
    inUse: true,
  };
  const airlocks: BodyOf<'equipment.add'> = {
    ...scale,
    equipmentId: ids.next(),
    kind: 'parts',
    tag: 'AL',
    name: 'airlocks',
    capacityGrams: null,
    stepGrams: null,
    count: 12,
  };
  const read = async (): Promise<EquipmentReply> => (await maker.get<EquipmentReply>('/api/equipment')).body;
  const piece = async (tag: string) => (await read()).equipment.find((one) => one.tag === tag)!;
  const dayFromNow = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

  beforeEach(async () => {
    house = await openHouse('spec_equipment');
    [owner, maker] = await Promise.all([Client.signIn(house, house.owner), Client.signIn(house, house.maker)]);
    for (const one of [scale, airlocks]) expect((await owner.record('equipment.add', one)).status).toBe(200);
  });
  afterEach(() => house.close());

  it('a scale is looked at with a weight; off by more than it may be it stays due until it is right', async () => {
    const look = (weightGrams: number, shownGrams: number) =>
      maker.record('equipment.check', {
        equipmentId: scale.equipmentId,
        by: { how: 'weight', weightGrams, shownGrams },
      });
    expect((await piece('SC1')).due).toBe('never');
    expect((await look(2000, 2003)).body.recorded[0]!.facts['passed']).toBeFalse();
    expect((await piece('SC1')).due).toBe('failed');
    expect((await look(2000, 2001)).status).toBe(200);
    const after = await piece('SC1');
    expect([after.due, after.history.map(({ passed }) => passed)]).toEqual([null, [true, false]]);
    expect((await look(50, 50)).body.code).toBe('equipment.outside');
    const counted = await maker.record('equipment.check', {
      equipmentId: scale.equipmentId,
      by: { how: 'count', counted: 1, missing: null },
    });
    expect(counted.body.code).toBe('equipment.outside');
  });

  it('a part that is missing is said where it may be', async () => {
    const count = (counted: number, missing: string | null) =>
      maker.record('equipment.check', { equipmentId: airlocks.equipmentId, by: { how: 'count', counted, missing } });
    const asked = await count(11, null);
    expect([asked.body.code, asked.body.detail]).toEqual([
      'equipment.outside',
      '11 of 12 airlocks were counted. One is missing: say where it may have gone. What is in no drawer may be in a jar.',
    ]);
    expect((await count(11, 'under the bench')).status).toBe(200);
    expect([(await piece('AL')).due, (await piece('AL')).checkedWords]).toEqual([
      'failed',
      '11 of 12 counted: under the bench',
    ]);
  });

  it('half said, of a tag that is taken, or given another tag: refused; out of use it asks for nothing', async () => {
    const other = { ...scale, equipmentId: ids.next() };
    expect((await owner.record('equipment.add', { ...other, tag: 'SC2', stepGrams: null })).body.field).toBe(
      'stepGrams',
    );
    expect((await owner.record('equipment.add', other)).body.code).toBe('name.taken');
    expect((await maker.record('equipment.add', { ...other, tag: 'SC2' })).status).toBe(403);
    const changed = { ...scale, reason: 'its foot broke', inUse: false };
    expect((await owner.record('equipment.change', { ...changed, tag: 'SC9' })).body.code).toBe('vessel.tagStays');
    expect((await owner.record('equipment.change', changed)).status).toBe(200);
    expect([(await piece('SC1')).inUse, (await piece('SC1')).due]).toEqual([false, null]);
  });

  it('one that was added by mistake is taken back; what was recorded of it stands in the way', async () => {
    const added = await owner.record('equipment.add', { ...airlocks, equipmentId: ids.next(), tag: 'AX' });
    const never = (corrects: string) =>
      owner.record('entry.correct', { corrects, instead: null, reason: 'typed twice' });
    expect((await never(added.body.recorded[0]!.id)).status).toBe(200);
    expect(await piece('AX')).toBeUndefined();
  });

  it('sanitiser is used until its time is over and only of its strength; a residue is rinsed, on tools and vessels alike', async () => {
    const mix = (passed: boolean | null, hours: number, at = new Date(), unchecked: string | null = null) => {
      const mixId = ids.next();
      const body: BodyOf<'sanitiser.mix'> = {
        mixId,
        agent: 'peracetic acid',
        dilution: '20 mL to 10 L',
        litres: 10,
        strength: passed === null ? null : { how: 'strip', shown: '200 ppm', passed },
        unchecked,
        goodUntil: new Date(at.getTime() + hours * HOUR).toISOString(),
      };
      return maker.record('sanitiser.mix', body, at).then((reply) => ({ mixId, reply }));
    };
    const [good, weak, old] = [
      await mix(true, 24),
      await mix(false, 24),
      await mix(true, 4, new Date(Date.now() - 6 * HOUR)),
    ];
    expect([good, weak, old].map(({ reply }) => reply.status)).toEqual([200, 200, 200]);
    expect((await mix(true, -1)).reply.body.field).toBe('goodUntil');
    const clean = (mixId: string | null, more: object = {}) =>
      maker.record('equipment.clean', {
        what: { what: 'equipment', equipmentId: airlocks.equipmentId },
        agent: 'peracetic acid',
        rinsed: false,
        noRinse: true,
        mixId,
        ...more,
      });
    expect((await clean(weak.mixId)).body.detail).toContain('did not reach its strength');
    expect((await clean(old.mixId)).body.detail).toContain('was good until');
    expect((await clean(good.mixId, { noRinse: false })).body.code).toBe('cleaning.rinse');
    expect((await clean(good.mixId)).status).toBe(200);
    // Nobody checked it: it cleans nothing, until somebody holds a strip into it, or said why nobody does.
    const blind = await mix(null, 24);
    expect((await clean(blind.mixId)).body.detail).toContain('Nobody has checked how strong');
    const check = (passed: boolean) =>
      maker.record('sanitiser.check', { mixId: blind.mixId, strength: { how: 'strip', shown: '180 ppm', passed } });
    expect((await check(false)).status).toBe(200);
    expect((await clean(blind.mixId)).body.detail).toContain('did not reach its strength');
    const checked = await check(true);
    expect((await clean(blind.mixId)).status).toBe(200);
    const taken = { corrects: checked.body.recorded[0]!.id, instead: null, reason: 'another bottle' };
    expect((await maker.record('entry.correct', taken)).status).toBe(200);
    expect((await read()).mixes.find(({ id }) => id === blind.mixId)!.passed).toBeFalse();
    const sealed = await mix(null, 24, new Date(), 'ready to use, out of a sealed bottle');
    expect((await clean(sealed.mixId)).status).toBe(200);
    expect(
      (
        await maker.record('sanitiser.check', {
          mixId: ids.next(),
          strength: { how: 'strip', shown: '1', passed: true },
        })
      ).body.code,
    ).toBe('sanitiser.notFit');
    const vessel = { vesselId: house.vessel('C1'), agent: 'peracetic acid', rinsed: false, mixId: good.mixId };
    expect((await maker.record('vessel.clean', { ...vessel, noRinse: false })).body.code).toBe('cleaning.rinse');
    expect((await maker.record('vessel.clean', { ...vessel, noRinse: true })).status).toBe(200);
    const found = await read();
    expect(found.equipment.find(({ tag }) => tag === 'AL')!.cleaned!.with).toBe('peracetic acid, SAN26-0005');
    expect(found.mixes.find(({ id }) => id === good.mixId)!.used).toBe(2);
    const sheet = await maker.text('/api/records/cleaning.csv');
    expect(sheet).toContain('AL, airlocks');
    expect(sheet).toContain('SAN26-0001');
  });

  it('what this house asks a training for is recorded by who has one on that day, and by nobody else', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(5) });
    const ph = (who: Client, at?: Date) => who.record('ph.read', { lotId: fillId, ph: 5.1, sample: 'blended' }, at);
    expect((await ph(maker)).status)
      .withContext('nothing is asked')
      .toBe(200);
    expect((await owner.record('house.set', { trainedTasks: ['reading'] })).status).toBe(200);
    const refused = await ph(maker);
    expect([refused.status, refused.body.code]).toEqual([403, 'training.missing']);
    // Said before the work, of everything it would be refused for, and of nothing else.
    const lacks = async (who: Client) => (await who.get<UntrainedReply>('/api/untrained')).body.kinds;
    expect(Object.keys(await lacks(maker)).sort()).toEqual(
      ['acid.titrate', 'equipment.check', 'meter.calibrate', 'ph.read', 'temperature.read'].sort(),
    );
    expect((await lacks(maker))['ph.read']).toContain('is not on record');
    const train = (on: string, until: string | null) =>
      owner.record('person.train', {
        trainingId: ids.next(),
        personId: house.maker.id,
        task: 'reading',
        words: null,
        taughtBy: 'Owner',
        on,
        until,
      });
    expect((await train(dayFromNow(-1), dayFromNow(-2))).body.field).toBe('until');
    expect((await train(dayFromNow(-30), dayFromNow(-2))).status).toBe(200);
    expect((await ph(maker)).body.detail).toContain('ended on');
    expect((await ph(maker, daysAgo(3))).status)
      .withContext('of the day it was read')
      .toBe(200);
    expect((await lacks(maker))['ph.read']).toContain('ended on');
    expect((await train(dayFromNow(0), null)).status).toBe(200);
    expect(await lacks(maker)).toEqual({});
    expect((await ph(maker)).status).toBe(200);
    expect((await maker.record('loss.record', { lotId: fillId, sink: 'gas', grams: 5, note: null })).status).toBe(200);
    const { people } = (await owner.get<PeopleReply>('/api/people')).body;
    expect(people.find(({ id }) => id === house.maker.id)!.trainings.map(({ until }) => until)).toEqual([
      null,
      dayFromNow(-2),
    ]);
    expect((await maker.record('person.train', {} as never)).status).not.toBe(200);
  });

  it('a temperature beside what its room allows says so in the book; a vessel that rusts is filled by nobody', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(5) });
    const room = { roomId: house.names.room, name: 'Cellar', usualCelsius: 14, position: 0 };
    const allowed = (leastCelsius: number, mostCelsius: number) =>
      owner.record('room.change', { ...room, details: { leastCelsius, mostCelsius, light: 'dark', logger: null } });
    expect((await allowed(15, 18)).body.field).toBe('leastCelsius');
    expect((await allowed(10, 18)).status).toBe(200);
    await maker.record('temperature.read', { lotId: fillId, celsius: 16 });
    await maker.record('temperature.read', { lotId: fillId, celsius: 21.5 });
    const [{ code }] = (
      await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [fillId])
    ).rows as [{ code: string }];
    const lines = (await maker.get<LotReply>(`/api/lots/${code}`)).body.lines.filter(
      ({ what }) => what === 'Temperature',
    );
    expect(lines.map(({ words }) => words).filter(Boolean)).toEqual(['warmer than Cellar allows: 10 to 18 °C']);
    const house2 = (await owner.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body;
    const { takenBy, cleanedAt, cleanedWith, usedSince, id, inner, ...c2 } = house2.vessels.find(
      ({ tag }) => tag === 'C2',
    ) as unknown as BodyOf<'vessel.add'> & Record<string, unknown>;
    const change = { ...c2, vesselId: house.vessel('C2'), details: { material: 'rusts' as const }, reason: null };
    expect((await owner.record('vessel.change', change)).status).toBe(200);
    await expectAsync(dryBatch(house, { tag: 'C2', at: daysAgo(1) })).toBeRejectedWithError(/metal that rusts/);
  });
});
