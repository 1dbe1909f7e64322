import { lotReply, type FloorReply } from '@clear-tally/contract';
import { Client, ids, openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, sour } from './oneBatch.js';

describe('nothing lost on the way', () => {
  let house: TestHouse;
  let maker: Client;
  beforeAll(async () => {
    house = await openHouse('spec_nothing_lost');
    maker = await Client.signIn(house, house.maker);
  });
  afterAll(() => house.close());

  const book = async (code: string) => lotReply.parse((await maker.get(`/api/lots/${code}`)).body);
  const vesselOf = async (tag: string, brimMl: number, weightVolumeMl = 0): Promise<string> => {
    const vesselId = ids.next();
    await house.record('vessel.add', { vesselId, tag, shape: 'crock', brimMl, maxFill: 0.88, minFill: 0.2, weightVolumeMl, closure: 'loose', roomId: house.names.room, inUse: true }, { at: daysAgo(59) });
    return vesselId;
  };

  it('a vessel said to be empty accounts for the rest: weighed, or why it is gone; half of it packed leaves the other half there', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(25) });
    await sour(house, fillId, daysAgo(25));
    const { vessels } = (await maker.get<FloorReply>('/api/floor')).body;
    const { code, fillGrams } = vessels.find(({ lotId }) => lotId === fillId)!;
    const pack = (count: number, from: object) => maker.record('pack.run', { runLotId: ids.next(), from: [{ fillLotId: fillId, grams: count * 320, ...from }], jars: [{ sizeMl: 330, netGrams: 320, count }], sampleGrams: 0, leftoverGrams: 0, wasteGrams: 0, tallyReason: null } as never);
    const open = await pack(20, { empties: true });
    expect([open.body.code, open.body.detail.includes('“some stays”')]).toEqual(['pack.restOpen', true]);
    expect((await pack(20, { empties: false })).status).toBe(200);
    expect((await book(code)).closed).toBeFalse();
    const left = fillGrams - 6400;
    // A kilogram weighed and thrown away, the rest packed: the tally closes, and says where it went.
    const last = Math.floor((left - 1000) / 320);
    expect((await pack(last, { empties: true, restGrams: left - last * 320 })).status).toBe(200);
    const { closed, tally } = await book(code);
    expect([closed, tally.clear, Math.round(tally.lossGrams)]).toEqual([true, true, Math.round(left - last * 320)]);
  });
  it('a reason closes the vessel, and its tally still says that it is not clear', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C2', produceGrams: 9000, saltGrams: 198, at: daysAgo(25) });
    await sour(house, fillId, daysAgo(25));
    const { code } = (await maker.get<FloorReply>('/api/floor')).body.vessels.find(({ lotId }) => lotId === fillId)!;
    await house.record('pack.run', { runLotId: ids.next(), from: [{ fillLotId: fillId, grams: 6400, empties: true, restReason: 'the lid was off, half of it thrown out unweighed' }], jars: [{ sizeMl: 330, netGrams: 320, count: 20 }], sampleGrams: 0, leftoverGrams: 0, wasteGrams: 0, tallyReason: null }, { by: house.maker });
    const { closed, tally, lines } = await book(code);
    expect([closed, tally.clear]).toEqual([true, false]);
    expect(lines.some(({ words }) => words?.includes('the lid was off'))).toBeTrue();
  });
  it('splitting all of a vessel moves it and frees the emptied one; so does pouring all of it into another', async () => {
    const { fillId } = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(9) });
    const [vesselId, part] = [await vesselOf('S1', 15_000), ids.next()];
    const split = await maker.record('vessel.split', { fromLotId: fillId, fillLotId: part, vesselId, grams: 9198 });
    expect(split.body.recorded[0]!.facts['emptied']).toContain('D1');
    const live = async (): Promise<string[]> => (await maker.get<FloorReply>('/api/floor')).body.vessels.map(({ lotId }) => lotId);
    expect([(await live()).includes(fillId), (await live()).includes(part)]).toEqual([false, true]);
    const other = await dryBatch(house, { tag: 'D2', produceGrams: 3000, saltGrams: 66, at: daysAgo(9) });
    expect((await maker.record('lot.transfer', { fromLotId: other.fillId, toLotId: part, grams: 3066, note: null })).status).toBe(200);
    expect(await live()).not.toContain(other.fillId);
  });
  it('over the brim with its weight in: asked before the entry, recorded with its reason', async () => {
    const { batchId } = await dryBatch(house, { tag: 'G1', produceGrams: 14_600, saltGrams: 321, at: daysAgo(1), fill: false });
    const vesselId = await vesselOf('S2', 15_000, 350);
    const fill = (more: object) => maker.record('vessel.fill', { fillLotId: ids.next(), batchId, vesselId, grams: 14_900, brine: null, ...more });
    expect((await fill({})).body).toEqual(jasmine.objectContaining({ code: 'vessel.overfull', facts: jasmine.objectContaining({ asks: 'overReason' }) }));
    const recorded = await fill({ overReason: 'heaped, it settles overnight' });
    expect(recorded.body.recorded[0]!.facts['fillFraction'] as number).toBeCloseTo(15_250 / 15_000, 6);
    expect((await book(String(recorded.body.recorded[0]!.facts['code']))).lines.some(({ words }) => words?.includes('over the brim: heaped'))).toBeTrue();
  });
});
