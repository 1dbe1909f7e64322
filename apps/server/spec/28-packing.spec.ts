import {
  askedByReply,
  type BodyOf,
  jarsReply,
  lotReply,
  packableReply,
  packingReply,
  runReply,
} from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, receive, sour } from './oneBatch.js';

describe('at the packing table', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  const fills = { one: '', other: '' };
  const lots = { lids: '', moreLids: '', jars: '', firming: '' };
  const packedAt = daysAgo(3);

  const body = (more: Partial<BodyOf<'pack.run'>> = {}): BodyOf<'pack.run'> => ({
    runLotId: ids.next(),
    from: [{ fillLotId: fills.one, grams: 3300, empties: false }],
    jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
    sampleGrams: 60,
    leftoverGrams: 0,
    wasteGrams: 40,
    tallyReason: null,
    brine: 'own',
    storage: 'cold',
    ...more,
  });
  const pack = (more: Partial<BodyOf<'pack.run'>> = {}) => maker.record('pack.run', body(more));
  const onHand = async (lotId: string): Promise<number> => {
    const { lots: all } = (await maker.get('/api/stock')).body as unknown as {
      lots: { lotId: string; onHandGrams: number }[];
    };
    return all.find((one) => one.lotId === lotId)?.onHandGrams ?? 0;
  };
  const packed = async (more: Partial<BodyOf<'pack.run'>>) => {
    const sent = body(more);
    const recorded = await house.record('pack.run', sent, { at: packedAt, by: house.maker });
    const code = String(recorded.facts['code']);
    return { code, runLotId: sent.runLotId, facts: recorded.facts };
  };
  const runOf = async (code: string) => runReply.parse((await owner.get(`/api/runs/${code}`)).body);

  beforeAll(async () => {
    house = await openHouse('spec_packing');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    const at = daysAgo(58);
    const add = async (name: string, kind: 'packaging' | 'flavouring', allergens: string[] = []) => {
      const materialId = ids.next();
      await house.record(
        'material.add',
        { materialId, name, kind, waterFraction: 0, saltFraction: 0, allergens, caution: null },
        { at },
      );
      return materialId;
    };
    const lid = await add('Lids T63', 'packaging');
    lots.lids = await receive(house, lid, 30, 'HG-1');
    lots.moreLids = await receive(house, lid, 100, 'HG-2');
    lots.jars = await receive(house, await add('Jars 330 mL', 'packaging'), 500, 'HG-J');
    lots.firming = await receive(house, await add('Firming salt', 'flavouring'), 500, 'LM-F');
    const one = await dryBatch(house, { tag: 'C1', at: daysAgo(40), produceGrams: 24_000, saltGrams: 528 });
    const other = await dryBatch(house, { tag: 'C2', at: daysAgo(40), produceGrams: 14_000, saltGrams: 308 });
    Object.assign(fills, { one: one.fillId, other: other.fillId });
    for (const id of [one.fillId, other.fillId]) await sour(house, id, daysAgo(40), packedAt);
    await house.record(
      'vessel.close',
      {
        lotId: other.fillId,
        closure: 'airlock',
        headspaceMm: 40,
        weightItems: [{ what: 'glass weight', count: 3, grams: 400 }],
        tray: true,
      },
      { at: daysAgo(40), by: house.maker },
    );
  }, 60_000);
  afterAll(() => house.close());

  it('lids run out in the middle: which jars carry which lot stands beside the run, and the stock goes down by the piece', async () => {
    const short = await pack({ closures: [{ lotId: lots.lids, count: 8 }] });
    expect([short.body.code, short.body.facts]).toEqual(['pack.closuresShort', { jars: 10, pieces: 8 }]);
    const { code } = await packed({
      closures: [
        { lotId: lots.jars, count: 11 },
        { lotId: lots.lids, count: 6 },
        { lotId: lots.moreLids, count: 5 },
      ],
    });
    const { packing } = await runOf(code);
    expect(packing.closures.map(({ name, theirs, first, last }) => [name, theirs, first, last])).toEqual([
      ['Jars 330 mL', 'HG-J', 1, 10],
      ['Lids T63', 'HG-1', 1, 6],
      ['Lids T63', 'HG-2', 7, 10],
    ]);
    expect([await onHand(lots.jars), await onHand(lots.lids), await onHand(lots.moreLids)]).toEqual([489, 24, 95]);
    // And from the lids on: which jars they stand on.
    for (const [lotId, why] of [
      [lots.lids, 'jars 1 to 6'],
      [lots.moreLids, 'jars 7 to 10'],
      [lots.firming, null],
    ] as const) {
      const { body: asked } = await maker.get(`/api/asked-by/packaging/${lotId}`);
      const found = askedByReply.parse(asked).lots.map((lot) => [lot.code, lot.why]);
      expect(found).toEqual(why === null ? [] : [[code, why]]);
    }
    // Pieces are no grams of what is in the jars.
    const lot = lotReply.parse((await maker.get(`/api/lots/${code}`)).body);
    expect([lot.tally.inGrams, lot.tally.clear]).toEqual([3300, true]);
  });
  it('salt is no lid', async () => {
    expect((await pack({ closures: [{ lotId: lots.firming, count: 10 }] })).body.code).toBe('lot.wrongKind');
  });
  it('sampled jars are judged by the average-weight rule, and the book says so', async () => {
    const grams = [318, 322, 321, 319, 320.5];
    const { code, facts } = await packed({ weights: [{ sizeMl: 330, grams }], cleared: true });
    expect(facts['weights']).toBe('5 of 330 mL weighed: mean 320.1 g, least 318.0 g, as labelled');
    const { packing } = await runOf(code);
    expect([packing.cleared, packing.weights[0]!.says, packing.weights[0]!.tolerable]).toEqual([true, 'fine', 9.6]);
    const light = await packed({ weights: [{ sizeMl: 330, grams: [300, 330, 331] }] });
    expect(light.facts['weights']).toContain('SHORT');
  });
  it('what goes into the jars comes out of its lot, and the tally counts it', async () => {
    const { code } = await packed({ added: [{ fromLotId: lots.firming, grams: 20 }], sampleGrams: 80 });
    const lot = lotReply.parse((await maker.get(`/api/lots/${code}`)).body);
    expect([lot.tally.inGrams, lot.tally.clear]).toEqual([3320, true]);
    expect(lot.relatives.map(({ name, direction, grams }) => [name, direction, grams])).toContain([
      'Firming salt',
      'in',
      20,
    ]);
    const held = await pack({ added: [{ fromLotId: lots.firming, grams: 9000 }], wasteGrams: 9040 });
    expect(held.body.code).toBe('lot.overdrawn');
  });
  it('a weight that did not come out: asked for, and the run is held with it', async () => {
    const from = [{ fillLotId: fills.other, grams: 3300, empties: false, weightsOut: 2 }];
    const asked = await pack({ from });
    expect([asked.body.code, asked.body.field]).toEqual(['pack.weightsMissing', 'weightsReason']);
    expect(asked.body.detail).toContain('1 of 3 weight items');
    const { code } = await packed({ from, weightsReason: 'broken when it was filled, thrown out' });
    const { run } = await runOf(code);
    expect(run.hold).toContain('did not come out: broken when it was filled');
    const all = await packed({ from: [{ ...from[0]!, weightsOut: 3 }] });
    expect((await runOf(all.code)).run.hold).toBeNull();
  });
  it('retained jars stand in their place, are tasted on their days, and are not sold', async () => {
    const { code, runLotId } = await packed({ retained: { count: 2, roomId: house.names.room, onDays: [5, 2] } });
    const reply = await runOf(code);
    expect(reply.packing.retained.map(({ first, last, place, left }) => [first, last, place, left])).toEqual([
      [9, 10, 'Cellar', 2],
    ]);
    expect(reply.leaving).toBe(8);
    expect(reply.run.checks.filter(({ what }) => what === 'taste').length).toBe(2);
    const { runs } = jarsReply.parse((await maker.get('/api/jars')).body);
    const stretches = runs.find((one) => one.code === code)!.stretches;
    expect(stretches.map(({ first, last, kept }) => [first, last, kept])).toEqual([
      [1, 8, null],
      [9, 10, 'kept to be tasted'],
    ]);
    const tasted = await maker.record('run.check', {
      runLotId,
      what: 'taste',
      says: 'fine',
      opened: 9,
      note: null,
      photo: null,
    });
    expect(tasted.status).toBe(200);
    const after = await runOf(code);
    expect(after.packing.retained[0]!.left).toBe(1);
    expect(after.run.checks.filter(({ what }) => what === 'taste').length).toBe(1);
    expect((await pack({ retained: { count: 11, roomId: house.names.room, onDays: [30] } })).body.code).toBe(
      'jar.unknown',
    );
  });
  it('the table is told what was packed before it, and an order that carries no allergen on', async () => {
    const reply = packingReply.parse((await maker.get(`/api/packing/${fills.other}`)).body);
    expect([reply.allergens, reply.before]).toEqual([[], null]);
    const { fills: may } = packableReply.parse((await maker.get('/api/packable')).body);
    expect(may.map(({ vesselTag, weightsIn }) => [vesselTag, weightsIn])).toEqual([
      ['C1', 0],
      ['C2', 3],
    ]);
    expect(reply.order.map(({ vesselTag }) => vesselTag)).toEqual(['C1', 'C2']);
    await pack();
    const next = packingReply.parse((await maker.get(`/api/packing/${fills.other}`)).body);
    expect(next.before!.name).toBe('Dry shred');
  });
});
