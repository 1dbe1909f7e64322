import { type FloorReply, lotReply, makeReply, reachReply, traceReply } from '@clear-tally/contract';
import { applyRules } from '../src/subjects/holds/applyRules.js';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, readWell, receive, sour } from './oneBatch.js';

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
    await house.record(
      'vessel.add',
      {
        vesselId,
        tag,
        shape: 'crock',
        brimMl,
        maxFill: 0.88,
        minFill: 0.2,
        weightVolumeMl,
        closure: 'loose',
        roomId: house.names.room,
        inUse: true,
      },
      { at: daysAgo(59) },
    );
    return vesselId;
  };

  it('a vessel said to be empty accounts for the rest: weighed, or why it is gone; half of it packed leaves the other half there', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(25) });
    await sour(house, fillId, daysAgo(25));
    const { vessels } = (await maker.get<FloorReply>('/api/floor')).body;
    const { code, fillGrams } = vessels.find(({ lotId }) => lotId === fillId)!;
    const pack = (count: number, from: object) =>
      maker.record('pack.run', {
        runLotId: ids.next(),
        from: [{ fillLotId: fillId, grams: count * 320, ...from }],
        jars: [{ sizeMl: 330, netGrams: 320, count }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
      } as never);
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
    await house.record(
      'pack.run',
      {
        runLotId: ids.next(),
        from: [
          {
            fillLotId: fillId,
            grams: 6400,
            empties: true,
            restReason: 'the lid was off, half of it thrown out unweighed',
          },
        ],
        jars: [{ sizeMl: 330, netGrams: 320, count: 20 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
      },
      { by: house.maker },
    );
    const { closed, tally, lines } = await book(code);
    expect([closed, tally.clear]).toEqual([true, false]);
    expect(lines.some(({ words }) => words?.includes('the lid was off'))).toBeTrue();
  });
  it('splitting all of a vessel moves it and frees the emptied one; so does pouring all of it into another', async () => {
    const { fillId } = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(9) });
    const [vesselId, part] = [await vesselOf('S1', 15_000), ids.next()];
    const split = await maker.record('vessel.split', { fromLotId: fillId, fillLotId: part, vesselId, grams: 9198 });
    expect(split.body.recorded[0]!.facts['emptied']).toContain('D1');
    const live = async (): Promise<string[]> =>
      (await maker.get<FloorReply>('/api/floor')).body.vessels.map(({ lotId }) => lotId);
    expect([(await live()).includes(fillId), (await live()).includes(part)]).toEqual([false, true]);
    const other = await dryBatch(house, { tag: 'D2', produceGrams: 3000, saltGrams: 66, at: daysAgo(9) });
    expect(
      (await maker.record('lot.transfer', { fromLotId: other.fillId, toLotId: part, grams: 3066, note: null })).status,
    ).toBe(200);
    expect(await live()).not.toContain(other.fillId);
  });
  it('over the brim with its weight in: asked before the entry, recorded with its reason', async () => {
    const { batchId } = await dryBatch(house, {
      tag: 'G1',
      produceGrams: 14_600,
      saltGrams: 321,
      at: daysAgo(1),
      fill: false,
    });
    const vesselId = await vesselOf('S2', 15_000, 350);
    const fill = (more: object) =>
      maker.record('vessel.fill', { fillLotId: ids.next(), batchId, vesselId, grams: 14_900, brine: null, ...more });
    expect((await fill({})).body).toEqual(
      jasmine.objectContaining({ code: 'vessel.overfull', facts: jasmine.objectContaining({ asks: 'overReason' }) }),
    );
    const recorded = await fill({ overReason: 'heaped, it settles overnight' });
    expect(recorded.body.recorded[0]!.facts['fillFraction'] as number).toBeCloseTo(15_250 / 15_000, 6);
    expect(
      (await book(String(recorded.body.recorded[0]!.facts['code']))).lines.some(({ words }) =>
        words?.includes('past its window: heaped'),
      ),
    ).toBeTrue();
  });

  describe('what a hold reaches', () => {
    let side: string;
    let sister: string;
    const runs: Record<string, { runLotId: string; code: string }> = {};
    const held = async (code: string): Promise<string | null> => (await book(code)).hold;
    beforeAll(async () => {
      await vesselOf('R1', 30_000);
      await vesselOf('R2', 30_000);
      const tags = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body.vessels;
      const fill = async (tag: string): Promise<string> => {
        const { batchId, fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(25), fill: false });
        await house.record(
          'vessel.fill',
          { fillLotId: fillId, batchId, vesselId: tags.find((one) => one.tag === tag)!.id, grams: 14_900, brine: null },
          { at: daysAgo(25), by: house.maker },
        );
        return fillId;
      };
      [side, sister] = [await fill('R1'), await fill('R2')];
      // Read in order on days 20 and 19 before today; jars on day 18, then read again, on day 10; the sister topped up on day 5, jars on day 4.
      for (const [lotId, days] of [
        [side, 21],
        [side, 20],
        [sister, 21],
        [sister, 20],
      ] as const)
        await readWell(house, lotId, 3.8, daysAgo(days));
      runs['before'] = await packJars(house, side, 6, { at: daysAgo(19) });
      await readWell(house, side, 3.7, daysAgo(10));
      await house.record(
        'lot.transfer',
        { fromLotId: side, toLotId: sister, grams: 200, note: null },
        { at: daysAgo(9), by: house.maker },
      );
      for (const days of [7, 6]) await readWell(house, sister, 3.75, daysAgo(days));
      runs['after'] = await packJars(house, sister, 9, { at: daysAgo(5) });
    });

    it('is listed with its mass and jars: what left since the last reading in order, and what left before', async () => {
      const { since, taken } = reachReply.parse((await maker.get(`/api/reach/${side}`)).body);
      expect(since!.ph).toBe(3.7);
      expect(taken.map((one) => [one.code, one.since, one.jars, Math.round(one.grams)])).toEqual([
        [runs['before']!.code, false, 6, 1920],
        [jasmine.stringContaining('-R2') as unknown as string, true, null, 200],
        [runs['after']!.code, true, 9, 2880],
      ]);
    });
    it('leaving out wants a reason, and what left since then a reviewer', async () => {
      const { taken } = reachReply.parse((await maker.get(`/api/reach/${side}`)).body);
      const find = (hold: string[], leftOutReason: string | null, by = maker) =>
        by.record('find.record', {
          lotId: side,
          finding: 'fuzz',
          place: 'surface',
          verdict: 'throwOut',
          reason: null,
          note: null,
          photo: null,
          reach: { hold, leftOutReason },
        });
      const since = taken.filter((one) => one.since).map(({ lotId }) => lotId);
      expect((await find(since, null)).body.code).toBe('hold.leftOut');
      expect((await find([], 'looked fine')).body.code)
        .withContext('a maker leaves nothing out that left since')
        .toBe('hold.leftOut');
      expect((await find([...since, ids.next()], 'x')).body.code).toBe('hold.notTaken');
    });
    it('one entry holds the vessel, the sister it topped up and the jars since, and leaves out with a reason those before', async () => {
      const { taken } = reachReply.parse((await maker.get(`/api/reach/${side}`)).body);
      const recorded = await maker.record('find.record', {
        lotId: side,
        finding: 'fuzz',
        place: 'surface',
        verdict: 'throwOut',
        reason: null,
        note: null,
        photo: null,
        reach: {
          hold: taken.filter((one) => one.since).map(({ lotId }) => lotId),
          leftOutReason: 'packed nine days before it was last in order',
        },
      });
      const { facts } = recorded.body.recorded[0]!;
      expect([facts['heldToo'], facts['leftOut']]).toEqual([
        [jasmine.stringContaining('-R2'), runs['after']!.code],
        [runs['before']!.code],
      ]);
      const sisterCode = taken.find(({ lotId }) => lotId === sister)!.code;
      expect([
        await held(runs['before']!.code),
        (await held(runs['after']!.code))?.includes('R1'),
        (await held(sisterCode))?.includes('R1'),
      ]).toEqual([null, true, true]);
    });
    it('what a rule holds reaches by itself, and is freed with it', async () => {
      const { fillId } = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(30) });
      for (const [days, ph] of [
        [27, 3.9],
        [21, 3.7],
        [20, 3.7],
      ] as const)
        await readWell(house, fillId, ph, daysAgo(days));
      const late = await packJars(house, fillId, 4, { at: daysAgo(19) });
      await readWell(house, fillId, 3.68, daysAgo(13));
      await readWell(house, fillId, 3.68, daysAgo(12));
      const run = await packJars(house, fillId, 5, { at: daysAgo(11) });
      await maker.record('ph.read', { lotId: fillId, ph: 4.1, sample: 'blended', confirmedJump: true });
      await applyRules(house.connection.db, new Date(), [fillId]);
      expect([await held(late.code), (await held(run.code))?.includes('eaten')]).toEqual([null, true]);
    });
  });

  it('the trace of a lot lists what it went into, with what of it is inside, also before a jar exists; what is chosen is held at once', async () => {
    const owner = await Client.signIn(house, house.owner);
    await vesselOf('T1', 20_000);
    const { vessels } = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body;
    const { batchId, shredLot } = await dryBatch(house, {
      tag: 'T1',
      produceGrams: 10_000,
      saltGrams: 220,
      at: daysAgo(4),
      fill: false,
    });
    const fillLotId = ids.next();
    await house.record(
      'vessel.fill',
      { fillLotId, batchId, vesselId: vessels.find(({ tag }) => tag === 'T1')!.id, grams: 5110, brine: null },
      { at: daysAgo(4), by: house.maker },
    );
    const shred = (
      await maker.get<{ lots: { lotId: string; code: string }[] }>('/api/lots?kind=supply')
    ).body.lots.find(({ lotId }) => lotId === shredLot)!;
    const trace = traceReply.parse((await maker.get(`/api/trace/${shred.code}`)).body);
    const forward = trace.nodes.filter((node) => node.forward).sort((a, b) => a.column - b.column);
    expect(forward.map(({ kind, closed }) => [kind, closed])).toEqual([
      ['batch', false],
      ['fill', false],
    ]);
    // Half of the bowls went in: half of the 10 kg of produce.
    expect(forward.map(({ grams }) => Math.round(grams))).toEqual([10_000, 5000]);
    const also = forward.map(({ lotId }) => lotId);
    expect(
      (await owner.record('hold.place', { lotId: shredLot, reason: 'withdrawn by its grower', also: [ids.next()] }))
        .body.code,
    ).toBe('hold.notTaken');
    expect(
      (await owner.record('hold.place', { lotId: shredLot, reason: 'withdrawn by its grower', also })).body.recorded[0]!
        .facts['held'],
    ).toBe(3);
    expect(
      traceReply
        .parse((await maker.get(`/api/trace/${shred.code}`)).body)
        .nodes.filter((node) => node.forward)
        .every(({ hold }) => hold?.includes('withdrawn by its grower')),
    ).toBeTrue();
  });
  it('what is seen asks: its to-dos and its second look stand on the round, the vessel is marked until then; what is held is not called quiet', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C2', produceGrams: 9000, saltGrams: 198, at: daysAgo(6) });
    await readWell(house, fillId, 4.1, daysAgo(2));
    const standing = async () =>
      (await maker.get<FloorReply>('/api/floor')).body.vessels.find(({ lotId }) => lotId === fillId)!;
    const recorded = await maker.record('find.record', {
      lotId: fillId,
      finding: 'floaters',
      place: 'surface',
      verdict: 'act',
      reason: null,
      note: null,
      photo: null,
    });
    expect(recorded.body.recorded[0]!.facts['todo'] as string[]).toContain('Look at the weight');
    const seen = await standing();
    expect(seen.seen).toEqual({ verdict: 'act', name: 'Pieces float above the brine' });
    expect(
      seen.checks.filter(({ what }) => what === 'todo').map(({ words, mayBeQuiet }) => [words, mayBeQuiet]),
    ).toEqual([
      ['Press down, or take out and weigh', false],
      ['Look at the weight', false],
      ['Look again: Pieces float above the brine', false],
    ]);
    await maker.record('check.make', {
      lotId: fillId,
      what: 'todo',
      words: 'Look again: Pieces float above the brine',
      quiet: true,
    });
    expect((await standing()).seen).toBeNull();
    await maker.record('hold.place', { lotId: fillId, reason: 'odd smell' });
    expect(
      (await maker.record('round.quiet', { lots: [{ lotId: fillId, checks: [{ what: 'look', words: null }] }] })).body
        .code,
    ).toBe('lot.onHold');
  });

  it('mustard boiled in a brine, strained out of it, gives its allergen to what the brine is poured on; made, poured and left close, or say why not', async () => {
    const mustard = ids.next();
    const { names } = house;
    expect(
      (
        await (
          await Client.signIn(house, house.owner)
        ).record('material.add', {
          materialId: mustard,
          name: 'Yellow mustard seed',
          kind: 'flavouring',
          waterFraction: 0.06,
          saltFraction: 0,
          allergens: [],
          caution: null,
        })
      ).body.code,
    ).toBe('material.allergenAsked');
    await house.record('material.add', {
      materialId: mustard,
      name: 'Yellow mustard seed',
      kind: 'flavouring',
      waterFraction: 0.06,
      saltFraction: 0,
      allergens: ['mustard'],
      caution: null,
    });
    const [seed, turnip, salt, tap] = [
      await receive(house, mustard, 500, 'M'),
      await receive(house, names.turnip, 20_000, 'T'),
      await receive(house, names.salt, 5000, 'S'),
      await receive(house, names.tap, 1, 'tap'),
    ];
    const [batchId, brineLotId, fillLotId] = [ids.next(), ids.next(), ids.next()];
    const vesselId = await vesselOf('B1', 6000);
    const sisterId = await vesselOf('B2', 6000);
    await house.record(
      'batch.start',
      { batchId, formulaId: names.brined, version: 1, plan: { from: 'trimmed', trimmedGrams: 4000 } },
      { at: daysAgo(2), by: house.maker },
    );
    await house.record(
      'produce.weigh',
      { batchId, supplyLotId: turnip, trimmedGrams: 4000, trimWasteGrams: 0 },
      { at: daysAgo(2), by: house.maker },
    );
    const making = async () => makeReply.parse((await maker.get(`/api/making/${batchId}`)).body);
    await house.record(
      'brine.make',
      { brineLotId, batchId, waterLotId: tap, waterGrams: 3200 },
      { at: daysAgo(2), by: house.maker },
    );
    await house.record(
      'salt.weigh',
      { batchId, saltLotId: salt, grams: Math.round((await making()).salt.targetGrams), alreadyIn: false },
      { at: daysAgo(2), by: house.maker },
    );
    await house.record(
      'ingredient.add',
      { batchId, fromLotId: seed, grams: 12, brine: 'strained' },
      { at: daysAgo(2), by: house.maker },
    );
    await house.record('salt.accept', { batchId, reason: 'for the test' }, { at: daysAgo(2) });
    const fill = (lotId: string, into: string, pour: number) =>
      house.record(
        'vessel.fill',
        { fillLotId: lotId, batchId, vesselId: into, grams: 1900, brine: { brineLotId, grams: pour } },
        { at: daysAgo(2) },
      );
    const code = String((await fill(fillLotId, vesselId, 1600)).facts['code']);
    await fill(ids.next(), sisterId, 1100);
    const page = await book(code);
    expect(page.allergens).toEqual([
      jasmine.objectContaining({ words: 'mustard', certain: true, from: ['Yellow mustard seed'] }),
    ]);
    // The book of a vessel has its own pouring, not its sister's; the figures of the brine are what was poured.
    expect(page.lines.filter(({ kind }) => kind === 'vessel.fill').length).toBe(1);
    expect(
      page.lines.some(({ kind, words }) => kind === 'ingredient.add' && words?.includes('strained out')),
    ).toBeTrue();
    const brine = (await making()).preparations.find(({ lotId }) => lotId === brineLotId)!;
    expect([brine.pouredGrams, brine.lostGrams, brine.spices]).toEqual([2700, 12, ['Yellow mustard seed']]);
    const left = (more: object) =>
      maker.record('brine.left', {
        brineLotId,
        grams: Math.round(brine.onHandGrams),
        touched: 'never',
        fillLotId: null,
        keptLotId: null,
        ...more,
      } as never);
    expect((await left({ spices: 'none' })).body.code).toBe('brine.spicesUnknown');
    expect((await left({ spices: 'strained', grams: Math.round(brine.onHandGrams) - 300 })).body.code).toBe(
      'brine.difference',
    );
    expect(
      (
        await left({
          spices: 'strained',
          grams: Math.round(brine.onHandGrams) - 300,
          differenceReason: 'a jug went over',
        })
      ).status,
    ).toBe(200);
    expect((await making()).preparations.find(({ lotId }) => lotId === brineLotId)!.pouredGrams)
      .withContext('what is left is not poured')
      .toBe(2700);
  });
  it('kept brine always has a donor: it is no delivery', async () => {
    const materialId = ids.next();
    await house.record('material.add', {
      materialId,
      name: 'Alte Lake',
      kind: 'starter',
      waterFraction: 0.97,
      saltFraction: 0.025,
      allergens: [],
      caution: null,
      details: { standsFor: 'keptBrine' },
    });
    expect(
      (
        await maker.record('supply.receive', {
          lotId: ids.next(),
          materialId,
          supplierId: house.names.supplier,
          supplierLotCode: 'x',
          grams: 500,
          useBy: null,
          condition: null,
        })
      ).body.code,
    ).toBe('stock.keptBrine');
  });
});
