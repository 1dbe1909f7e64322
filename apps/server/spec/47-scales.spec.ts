import type { BodyOf, EquipmentReply, LotReply, MakeReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, receive } from './oneBatch.js';

describe('which scale weighed what', () => {
  let house: TestHouse;
  let maker: Client;
  let batchId: string;
  let produceLot: string;
  let saltLot: string;
  const scale = (tag: string, capacityGrams: number, stepGrams: number): BodyOf<'equipment.add'> => ({
    equipmentId: ids.next(),
    kind: 'scale',
    tag,
    name: 'A scale',
    roomId: null,
    capacityGrams,
    stepGrams,
    count: null,
    words: null,
    inUse: true,
  });
  const [bench, floor] = [scale('SC1', 6000, 0.5), scale('SC2', 150_000, 50)];
  const produce = (more: object = {}) =>
    maker.record('produce.weigh', {
      batchId,
      supplyLotId: produceLot,
      trimmedGrams: 14_600,
      trimWasteGrams: 0,
      scaleId: floor.equipmentId,
      ...more,
    });
  const salt = (grams: number, more: object = {}) =>
    maker.record('salt.weigh', { batchId, saltLotId: saltLot, grams, alreadyIn: false, ...more });
  const piece = async (tag: string) =>
    (await maker.get<EquipmentReply>('/api/equipment')).body.equipment.find((one) => one.tag === tag)!;
  const look = (of: BodyOf<'equipment.add'>, weightGrams: number, shownGrams: number) =>
    maker.record('equipment.check', {
      equipmentId: of.equipmentId,
      by: { how: 'weight', weightGrams, shownGrams },
    });
  const codeOf = async (id: string): Promise<string> =>
    (await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [id])).rows[0]!.code;

  beforeEach(async () => {
    house = await openHouse('spec_scales');
    maker = await Client.signIn(house, house.maker);
    for (const one of [bench, floor]) await house.record('equipment.add', one);
    produceLot = await receive(house, house.names.shred, 40_000, 'S-1', daysAgo(3));
    saltLot = await receive(house, house.names.salt, 10_000, 'SALT-1', daysAgo(3));
    batchId = ids.next();
    await house.record('batch.start', {
      batchId,
      formulaId: house.names.dry,
      version: 1,
      plan: { from: 'trimmed', trimmedGrams: 14_600 },
    });
  }, 60_000);
  afterEach(() => house.close());

  it('is kept with the mass, said in the book and on the run sheet, half grams with it; nobody has to say it', async () => {
    expect((await produce()).status).toBe(200);
    expect((await salt(320.5, { scaleId: bench.equipmentId })).status).toBe(200);
    const { body: make } = await maker.get<MakeReply>(`/api/making/${batchId}`);
    expect([make.produce[0]!.scale, make.salt.portions[0]!.scale]).toEqual(['SC2', 'SC1']);
    const { lines } = (await maker.get<LotReply>(`/api/lots/${await codeOf(batchId)}`)).body;
    const said = lines.filter(({ what }) => /^(Trimmed|Salt,)/.test(what));
    expect(said.map(({ figure, words }) => [figure, words?.split(' · ').at(-1)])).toEqual([
      ['320.5 g', 'on SC1'],
      ['14.60 kg', 'on SC2'],
    ]);
    expect((await piece('SC2')).weighed).toEqual({
      times: 1,
      lots: [jasmine.objectContaining({ code: await codeOf(batchId), grams: 14_600 })],
    });
    expect((await produce({ scaleId: undefined, trimmedGrams: 10 })).status).toBe(200);
    expect((await piece('SC2')).weighed.times).toBe(1);
  });

  it('cannot show it, is out of use, or is none: refused, and nothing is weighed in', async () => {
    const refusals: readonly (readonly [object, string])[] = [
      [{ scaleId: bench.equipmentId }, 'weighs up to 6,000 g'],
      [{ trimmedGrams: 20 }, 'shows nothing under one'],
      [{ trimmedGrams: 5900, tareGrams: 200, scaleId: bench.equipmentId }, 'a tare of 200 g'],
      [{ trimmedGrams: 4000, mixedGrams: 8000, scaleId: bench.equipmentId }, '8,000 g were given'],
      [{ scaleId: ids.next() }, 'No such scale'],
    ];
    for (const [more, says] of refusals) {
      const { status, body } = await produce(more);
      expect([status, body.code, body.field]).withContext(says).toEqual([422, 'scale.notFit', 'scaleId']);
      expect(body.detail).toContain(says);
    }
    await house.record('equipment.change', { ...floor, inUse: false, reason: 'its foot broke' });
    expect((await produce()).body.detail).toContain('is out of use');
    expect((await maker.get<MakeReply>(`/api/making/${batchId}`)).body.produce).toEqual([]);
  });

  it('found wrong, it weighs nothing until it is right; what it weighed since it was last right is named', async () => {
    await look(bench, 2000, 2000);
    await produce();
    await salt(200, { scaleId: bench.equipmentId });
    await salt(60, { scaleId: bench.equipmentId });
    await look(bench, 2000, 2030);
    const wrong = await piece('SC1');
    expect([wrong.due, wrong.weighed.times, wrong.weighed.lots.map(({ grams }) => grams)]).toEqual([
      'failed',
      2,
      [60, 200],
    ]);
    expect((await salt(60, { scaleId: bench.equipmentId })).body.detail).toContain('did not show its weight right');
    expect((await salt(60)).status)
      .withContext('on one that is not named')
      .toBe(200);
    await look(bench, 2000, 2000.5);
    expect((await piece('SC1')).weighed.times).toBe(0);
    // What was weighed before it was found wrong can still be written down.
    expect((await salt(0.5, { scaleId: bench.equipmentId })).status).toBe(200);
  });

  it('follows a correction: of the mass, of the scale, and of a weighing that never was', async () => {
    const { body } = await produce();
    const [recorded] = body.recorded;
    const right = (instead: object | null) =>
      maker.record('entry.correct', {
        corrects: recorded!.id,
        reason: 'the bowl was on it: 600 g',
        instead: instead && { kind: 'produce.weigh', body: { ...base, ...instead } },
      });
    const base = {
      batchId,
      supplyLotId: produceLot,
      trimmedGrams: 14_600,
      trimWasteGrams: 0,
      scaleId: floor.equipmentId,
    };
    expect((await right({ trimmedGrams: 14_000, tareGrams: 600 })).status).toBe(200);
    expect((await piece('SC2')).weighed.lots.map(({ grams }) => grams)).toEqual([14_000]);
    expect((await right({ trimmedGrams: 4000, scaleId: bench.equipmentId })).status).toBe(200);
    expect([(await piece('SC1')).weighed.times, (await piece('SC2')).weighed.times]).toEqual([1, 0]);
    const { body: make } = await maker.get<MakeReply>(`/api/making/${batchId}`);
    expect(make.produce.map(({ grams, scale }) => [grams, scale])).toEqual([[4000, 'SC1']]);
    expect((await right(null)).status).toBe(200);
    expect((await piece('SC1')).weighed.times).toBe(0);
  });

  it('a mixed bowl goes in by its shares, and says so; no share is more than the whole', async () => {
    const part = (trimmedGrams: number) => produce({ trimmedGrams, mixedGrams: 8163 });
    expect((await part(5714.1)).status).toBe(200);
    expect((await part(9000)).body.field).toBe('trimmedGrams');
    const { lines } = (await maker.get<LotReply>(`/api/lots/${await codeOf(batchId)}`)).body;
    const line = lines.find(({ what }) => what.startsWith('Trimmed'))!;
    const together = async () =>
      (await maker.get<MakeReply>(`/api/making/${batchId}`)).body.produce.map((row) => row.together);
    expect(await together()).toEqual([true]);
    const { entryId } = (await maker.get<MakeReply>(`/api/making/${batchId}`)).body.produce[0]!;
    const alone = { batchId, supplyLotId: produceLot, trimmedGrams: 5714, trimWasteGrams: 0 };
    const right = { kind: 'produce.weigh', body: alone };
    await maker.record('entry.correct', { corrects: entryId, reason: 'it lay there alone', instead: right });
    expect(await together())
      .withContext('as it was put right')
      .toEqual([false]);
    expect([line.figure, line.words]).toEqual(['5,714.1 g', 'its share of 8,163 g weighed together · on SC2']);
  });
});
