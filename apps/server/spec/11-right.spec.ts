import { judgeReply, lotReply, makeReply, startersReply, type WatchReply, watchReply } from '@clear-tally/contract';
import { applyRules, decideAnew } from '../src/subjects/holds/applyRules.js';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, receive, sour } from './oneBatch.js';

const HOUR = 3_600_000;

describe('right, and on the stricter side', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  let lots: { turnip: string; salt: string; tap: string };
  const hoursAgo = (hours: number): Date => new Date(Date.now() - hours * HOUR);
  const refusalOf = (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'recorded',
      (error: { refusal: { code: string } }) => error.refusal.code,
    );
  const codeOf = async (lotId: string): Promise<string> =>
    (await maker.get<{ lots: { lotId: string; code: string }[] }>('/api/lots?kind=fill')).body.lots.find(
      (lot) => lot.lotId === lotId,
    )!.code;
  const watch = async (lotId: string): Promise<WatchReply> =>
    watchReply.parse((await maker.get(`/api/watch/${await codeOf(lotId)}`)).body);
  const packs = async (lotId: string): Promise<string | null> => (await watch(lotId)).packable;
  const percent = (fraction: number | null): string => (fraction === null ? 'unknown' : (fraction * 100).toFixed(2));

  beforeAll(async () => {
    house = await openHouse('spec_right');
    [maker, owner] = [await Client.signIn(house, house.maker), await Client.signIn(house, house.owner)];
    const { names } = house;
    lots = {
      turnip: await receive(house, names.turnip, 60_000, 'T'),
      salt: await receive(house, names.salt, 25_000, 'S'),
      tap: await receive(house, names.tap, 1, 'tap'),
    };
    await house.record(
      'formula.save',
      {
        formulaId: FORMULA,
        number: 9,
        version: 1,
        name: 'Four per cent brine',
        style: 'brinedWhole',
        produce: [{ materialId: names.turnip, share: 1 }],
        saltBasis: 'ofWater',
        saltFraction: 0.04,
        waterPerProduce: 1,
        lines: [],
        solidsFraction: 0.6,
        yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
        jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
        usualDays: 20,
        note: null,
      },
      { at: daysAgo(50) },
    );
  });
  afterAll(() => house.close());
  const FORMULA = ids.next();

  /** 1,400 g under a brine of 2,000 g water and 80 g salt, so much of it poured. */
  async function brined(tag: string, pour: number, at: Date, reason?: string) {
    const [batchId, brineLotId, fillLotId, vesselId] = [ids.next(), ids.next(), ids.next(), ids.next()];
    await house.record(
      'vessel.add',
      {
        vesselId,
        tag,
        shape: 'glass',
        brimMl: 4000,
        maxFill: 0.95,
        minFill: 0.2,
        weightVolumeMl: 0,
        closure: 'airlock',
        roomId: house.names.room,
        inUse: true,
      },
      { at: daysAgo(59) },
    );
    await house.record(
      'batch.start',
      { batchId, formulaId: FORMULA, version: 1, plan: { from: 'trimmed', trimmedGrams: 1400 } },
      { at },
    );
    await house.record(
      'produce.weigh',
      { batchId, supplyLotId: lots.turnip, trimmedGrams: 1400, trimWasteGrams: 0 },
      { at },
    );
    await house.record('brine.make', { brineLotId, batchId, waterLotId: lots.tap, waterGrams: 2000 }, { at });
    await house.record('salt.weigh', { batchId, saltLotId: lots.salt, grams: 80, alreadyIn: false }, { at });
    const fill = (by = house.owner) =>
      house.record(
        'vessel.fill',
        {
          fillLotId,
          batchId,
          vesselId,
          grams: 1400,
          brine: { brineLotId, grams: pour },
          ...(reason ? { weakSaltReason: reason } : {}),
        },
        { at, by },
      );
    return { batchId, fillLotId, vesselId, fill };
  }

  /** A filled vessel since then. */
  const stood = async (tag: string, at: Date): Promise<string> => {
    const { fillLotId, fill } = await brined(tag, 1500, at);
    await fill();
    return fillLotId;
  };

  it('one salt figure: 900 g poured of 2,080 g made is 1.58 %, in book, guide, starters, making and top-up alike', async () => {
    const { batchId, fillLotId, fill } = await brined('J1', 900, hoursAgo(30));
    expect((await fill()).facts).toEqual(jasmine.objectContaining({ band: 'caution' }));
    const code = await codeOf(fillLotId);
    const book = lotReply.parse((await maker.get(`/api/lots/${code}`)).body);
    const seen = await watch(fillLotId);
    const { starters } = startersReply.parse((await maker.get('/api/starters')).body);
    const making = makeReply.parse((await maker.get(`/api/making/${batchId}`)).body);
    const { facts } = judgeReply.parse(
      (await maker.get(`/api/judge?lotId=${fillLotId}&finding=looksRight&place=surface`)).body,
    );
    const all = [
      book.salt!.waterPhase,
      seen.salt.waterPhase,
      seen.waterPhase!.saltGrams / (seen.waterPhase!.saltGrams + seen.waterPhase!.waterGrams),
      starters.find(({ lotId }) => lotId === fillLotId)!.salt.waterPhase,
      making.fills[0]!.salt.waterPhase,
      facts['waterPhaseSalt'] as number,
    ];
    expect(new Set(all.map(percent))).toEqual(new Set(['1.58']));
    expect(seen.asked.some(({ what, rule }) => what === 'ph' && rule.kind === 'onDays' && rule.days.join() === '1,2,3'))
      .withContext('caution: pH on days 1, 2 and 3')
      .toBeTrue();
  });
  it('under 1.5 % a vessel is filled only with a reviewer’s written reason, and nothing was recorded without it', async () => {
    const plain = await brined('J2', 500, hoursAgo(30));
    expect(await refusalOf(plain.fill())).toBe('salt.weakNeedsReviewer');
    const asMaker = await brined('J3', 500, hoursAgo(30), 'it will do');
    expect(await refusalOf(asMaker.fill(house.maker))).toBe('salt.weakNeedsReviewer');
    const asOwner = await brined('J4', 500, hoursAgo(30), 'for the kitchen');
    expect(await refusalOf(asOwner.fill())).toBe('recorded');
    expect(
      (
        await maker.get<{ lines: { words: string | null }[] }>(`/api/lots/${await codeOf(asOwner.fillLotId)}`)
      ).body.lines.some(({ words }) => words?.includes('accepted: for the kitchen')),
    ).toBeTrue();
  });
  it('nor thinned under it', async () => {
    const { fillLotId, fill } = await brined('J5', 900, hoursAgo(30));
    await fill();
    const thin = {
      lotId: fillLotId,
      how: 'overflow' as const,
      lostGrams: 300,
      saltLotId: null,
      saltGrams: 0,
      waterLotId: lots.tap,
      waterGrams: 300,
    };
    expect((await maker.record('vessel.topUp', thin)).body.code).toBe('salt.weakNeedsReviewer');
    expect((await maker.record('vessel.topUp', { ...thin, weakSaltReason: 'x' })).body.code).toBe(
      'salt.weakNeedsReviewer',
    );
    expect(percent((await watch(fillLotId)).salt.waterPhase)).toBe('1.58');
  });
  it('W7: a vegetable that joins late and is no line of the formula is salted like the rest', async () => {
    const { batchId } = await dryBatch(house, { tag: 'C2', produceGrams: 8400, saltGrams: 185, fill: false });
    const before = makeReply.parse((await maker.get(`/api/making/${batchId}`)).body).salt.targetGrams;
    await house.record('ingredient.add', { batchId, fromLotId: lots.turnip, grams: 900 }, { by: house.maker });
    const after = makeReply.parse((await maker.get(`/api/making/${batchId}`)).body).salt.targetGrams;
    expect(after - before).toBeCloseTo(19.8, 1);
    expect(
      (
        await house.record(
          'salt.weigh',
          { batchId, saltLotId: lots.salt, grams: 20, alreadyIn: false },
          { by: house.maker },
        )
      ).facts['verdict'],
    ).toBe('in');
  });

  it('a first reading of 4.4 on day 14 is held: nobody looked in time; two readings a day apart end it', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: hoursAgo(24 * 14) });
    await readWell(house, fillId, 4.4, hoursAgo(50));
    expect(await applyRules(house.connection.db, hoursAgo(49), [fillId])).toBe(1);
    const seen = await watch(fillId);
    expect(seen.holds.map(({ rule, reason }) => [rule, reason.includes('nobody looked in time')])).toEqual([
      ['late', true],
    ]);
    expect(seen.lateness.state).withContext('between the limit and 4.6 nothing is irrevocable').toBe('metLate');
    await readWell(house, fillId, 4.1, hoursAgo(40));
    expect((await owner.record('hold.lift', { lotId: fillId, reason: 'slow' })).body.code).toBe('hold.readingsMissing');
    await readWell(house, fillId, 4.05, hoursAgo(4));
    expect((await watch(fillId)).holds[0]!.mayLift).toBeNull();
    expect((await owner.record('hold.lift', { lotId: fillId, reason: 'slow, two readings a day apart' })).status).toBe(
      200,
    );
    expect(await applyRules(house.connection.db, new Date(), [fillId]))
      .withContext('what a reviewer ended stays ended')
      .toBe(0);
    expect(await packs(fillId)).toBeNull();
  });
  it('an old barrel that is sour is not held for days nobody knows; one that is not sour is', async () => {
    const open = async (tag: string): Promise<string> => {
      const [vesselId, fillLotId] = [ids.next(), ids.next()];
      await house.record(
        'vessel.add',
        {
          vesselId,
          tag,
          shape: 'barrel',
          brimMl: 60_000,
          maxFill: 0.9,
          minFill: 0.2,
          weightVolumeMl: 0,
          closure: 'airlock',
          roomId: house.names.room,
          inUse: true,
        },
        { at: daysAgo(59) },
      );
      await house.record(
        'lot.open',
        {
          what: 'vessel',
          batchId: ids.next(),
          fillLotId,
          name: 'Old roots',
          vesselId,
          grams: 40_000,
          filledOn: daysAgo(90).toISOString().slice(0, 10),
        },
        { at: daysAgo(58) },
      );
      return fillLotId;
    };
    const [sourOne, sharp] = [await open('B1'), await open('B2')];
    await readWell(house, sourOne, 3.6, hoursAgo(3));
    await readWell(house, sharp, 4.9, hoursAgo(3));
    await applyRules(house.connection.db, new Date(), [sourOne, sharp]);
    expect((await watch(sourOne)).holds).toEqual([]);
    expect((await watch(sharp)).holds.length).toBeGreaterThan(0);
  });
  it('a reading corrected decides anew: the hold it brought ends by itself, with its reason in the book', async () => {
    const { fillId } = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(20) });
    await readWell(house, fillId, 4.2, daysAgo(15));
    await readWell(house, fillId, 3.7, daysAgo(9));
    const wrong = await maker.record('ph.read', { lotId: fillId, ph: 4.07, sample: 'blended' });
    expect((await watch(fillId)).holds.map(({ rule }) => rule)).toEqual(['rising']);
    expect(
      (
        await maker.record('entry.correct', {
          corrects: wrong.body.recorded[0]!.id,
          reason: 'read 3.70, typed 4.07',
          right: { kind: 'ph.read', ph: 3.7, sample: 'blended' },
        })
      ).status,
    ).toBe(200);
    const after = await watch(fillId);
    expect([after.holds.length, after.pastHolds[0]!.liftReason.includes('was corrected')]).toEqual([0, true]);
    expect(await decideAnew(house.connection.db, new Date(), [fillId])).toBe(0);
    expect(
      (await owner.record('hold.anew', { lotId: fillId, holdId: ids.next(), rule: 'late', reason: 'x' })).body.code,
    ).toBe('who.notAllowed');
  });
  it('one gate: 4.59 blended does not pack after a brine-only 4.10, nor after a strip', async () => {
    const { fillId } = await dryBatch(house, { tag: 'D2', produceGrams: 9000, saltGrams: 198, at: daysAgo(6) });
    await readWell(house, fillId, 4.59, daysAgo(2));
    await house.record('ph.read', { lotId: fillId, ph: 4.1, sample: 'brine' }, { by: house.maker });
    const pack = () =>
      maker.record('pack.run', {
        runLotId: ids.next(),
        from: [{ fillLotId: fillId, grams: 3200, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
      });
    expect((await pack()).body.detail).toBe((await packs(fillId))!);
    expect((await pack()).body.code).toBe('pack.phAboveLimit');
    expect((await watch(fillId)).mayTaste)
      .withContext('4.59 counts')
      .toBeNull();
  });
  it('a mixture is a new thing: 900 g of a young vessel into a sour one, and nothing opens until it is read again', async () => {
    const { fillId } = await dryBatch(house, { tag: 'G1', produceGrams: 3000, saltGrams: 66, at: daysAgo(25) });
    await sour(house, fillId, daysAgo(25));
    expect(await packs(fillId)).toBeNull();
    const young = await brined('J6', 1500, hoursAgo(40));
    await young.fill();
    expect(
      (await maker.record('lot.transfer', { fromLotId: young.fillLotId, toLotId: fillId, grams: 900, note: null })).body
        .code,
    ).toBe('lot.otherFormula');
    expect(
      (
        await maker.record('lot.transfer', {
          fromLotId: young.fillLotId,
          toLotId: fillId,
          grams: 900,
          note: null,
          confirmedOther: true,
        })
      ).status,
    ).toBe(200);
    const seen = await watch(fillId);
    expect(seen.packable).toContain('it is a new thing');
    expect(seen.lateness.state).withContext('the deadline of the younger part').toBe('pending');
    expect(seen.mayTaste).not.toBeNull();
    expect(
      (await maker.record('brine.keep', { lotId: ids.next(), fillLotId: fillId, grams: 100, useBy: null })).body.code,
    ).toBe('pack.noPh');
  });
  it('what is poured from a held vessel takes its holds along, and only when that is said', async () => {
    const [to, from] = [await brined('J7', 1500, hoursAgo(60)), await brined('J8', 1500, hoursAgo(60))];
    await to.fill();
    await from.fill();
    await house.record('hold.place', { lotId: from.fillLotId, reason: 'odd smell' });
    const pour = { fromLotId: from.fillLotId, toLotId: to.fillLotId, grams: 300, note: null };
    expect((await maker.record('lot.transfer', pour)).body.code).toBe('lot.onHold');
    expect((await maker.record('lot.transfer', { ...pour, carryHolds: true })).status).toBe(200);
    expect((await watch(to.fillLotId)).holds[0]!.reason).toContain('odd smell');
  });
  it('a little brine is no mixture', async () => {
    const { fillLotId, fill } = await brined('J9', 1500, daysAgo(20));
    await fill();
    await sour(house, fillLotId, daysAgo(20));
    const topUp = (grams: number) => ({
      lotId: fillLotId,
      how: 'evaporation' as const,
      lostGrams: grams,
      saltLotId: null,
      saltGrams: 0,
      waterLotId: lots.tap,
      waterGrams: grams,
    });
    const first = await maker.record('vessel.topUp', topUp(40));
    expect(first.status).withContext(first.body.detail).toBe(200);
    expect(await packs(fillLotId)).toBeNull();
    expect((await maker.record('vessel.topUp', topUp(40))).status).toBe(200);
    expect(await packs(fillLotId))
      .withContext('two little ones add up to 2 %')
      .toContain('new thing');
  });
  it('kept brine: its last day is held to the days of the house', async () => {
    const { fillLotId, fill } = await brined('K1', 1500, daysAgo(20));
    await fill();
    await sour(house, fillLotId, daysAgo(20));
    const keep = (useBy: string | null) =>
      maker.record('brine.keep', { lotId: ids.next(), fillLotId, grams: 50, useBy });
    expect((await keep('2099-01-01')).body.code).toBe('starter.useBy');
    expect((await keep(null)).status).toBe(200);
  });
  it('a vessel used since it was cleaned is not clean', async () => {
    const { vesselId, fill } = await brined('K2', 1500, hoursAgo(20));
    await house.record('vessel.clean', { vesselId, agent: 'soap' }, { at: hoursAgo(21) });
    const used = async () =>
      (await maker.get<{ vessels: { id: string; usedSince: boolean }[] }>('/api/house')).body.vessels.find(
        ({ id }) => id === vesselId,
      )!.usedSince;
    expect(await used()).toBeFalse();
    await fill();
    expect(await used()).toBeTrue();
  });
  it('a meter whose buffers lie far from the reading is for watching', async () => {
    const meterId = ids.next();
    await house.record('meter.add', { meterId, tag: 'M7', name: 'Alkaline', kind: 'meter' }, { at: daysAgo(2) });
    await house.record(
      'meter.calibrate',
      {
        meterId,
        celsius: 20,
        by: { how: 'shown', buffers: [7, 10.01], slopePercent: 98, offsetMillivolts: 1 },
        check: { buffer: 7, read: 7.01 },
      },
      { at: hoursAgo(2), by: house.maker },
    );
    const { fillLotId, fill } = await brined('K3', 1500, hoursAgo(20));
    await fill();
    expect(
      (await house.record('ph.read', { lotId: fillLotId, ph: 4.3, sample: 'blended', meterId }, { by: house.maker }))
        .facts,
    ).toEqual(jasmine.objectContaining({ forRelease: false }));
    expect(
      String(
        (
          await house.record(
            'ph.read',
            { lotId: fillLotId, ph: 4.3, sample: 'blended', meterId },
            { at: hoursAgo(3), by: house.maker },
          )
        ).facts['unfit'],
      ),
    )
      .withContext('before its calibration')
      .toContain('never calibrated');
  });
  it('house answers act: the checks they ask stand on the round of a batch that started with them', async () => {
    await house.record('house.rule', { rule: 'lid', option: 'loose', reason: 'cloth, tied' });
    await house.record('house.rule', { rule: 'weight', option: 'leaf', reason: 'wedged' });
    const { fillLotId, fill } = await brined('K4', 1500, hoursAgo(30));
    await fill();
    const { asked, checks } = await watch(fillLotId);
    expect(asked.map(({ what }) => what)).toContain('look');
    expect(checks.some(({ what, state }) => what === 'look' && state !== 'later')).toBeTrue();
    await house.record('house.rule', { rule: 'lid', option: 'airlock', reason: null });
    await house.record('house.rule', { rule: 'weight', option: 'weight', reason: null });
  });
  it('marks of past lots and the bench before the lid are of what is in the bowls, not of the plan', async () => {
    const { batchId, fill } = await brined('L1', 900, hoursAgo(30));
    const phase = async (): Promise<string> =>
      percent(makeReply.parse((await maker.get(`/api/making/${batchId}`)).body).salt.waterPhaseSalt);
    // 1,400 g (w 0.92) under its planned 1,400 g of water, a part of 2,000 g with 80 g of salt.
    expect(await phase()).toBe(percent(56 / (56 + 1400 + 1288)));
    await fill();
    expect(await phase()).toBe(percent(34.615 / (34.615 + 865.385 + 1288)));
    const formula = (await maker.get<{ pastWaterPhaseSalt: number[] }>(`/api/formulas/${FORMULA}`)).body;
    expect(percent(formula.pastWaterPhaseSalt[0]!)).toBe(await phase());
  });
  it('a pH that does not count is said to be so on the shelf, in the index and on the floor', async () => {
    const { fillLotId, fill } = await brined('L2', 1500, hoursAgo(60));
    await fill();
    await house.record(
      'ph.read',
      { lotId: fillLotId, ph: 4.4, sample: 'brine' },
      { at: hoursAgo(50), by: house.maker },
    );
    type Shown = { lotId: string; lastPh: number | null; phCounts: boolean };
    const seen = async (): Promise<string[]> => {
      const all = [
        (await maker.get<{ lots: Shown[] }>('/api/lots?kind=fill')).body.lots,
        (await maker.get<{ vessels: Shown[] }>('/api/shelf')).body.vessels,
        (await maker.get<{ vessels: Shown[] }>('/api/floor')).body.vessels,
      ];
      return all
        .map((list) => list.find((one) => one.lotId === fillLotId)!)
        .map(({ lastPh, phCounts }) => `${lastPh} ${phCounts}`);
    };
    expect(await seen()).toEqual(['4.4 false', '4.4 false', '4.4 false']);
    await readWell(house, fillLotId, 4.9, hoursAgo(40));
    await house.record(
      'ph.read',
      { lotId: fillLotId, ph: 4.1, sample: 'brine' },
      { at: hoursAgo(20), by: house.maker },
    );
    expect(await seen())
      .withContext('the blended one stands')
      .toEqual(['4.9 true', '4.9 true', '4.9 true']);
  });
  it('W14: 84 h at 21 °C and 5.4, then cooled: late since hour 72, and stays late', async () => {
    const filled = hoursAgo(120);
    const fillId = await stood('M1', filled);
    for (const hour of [0, 24, 48, 72])
      await house.record(
        'temperature.read',
        { lotId: fillId, celsius: 21 },
        { at: new Date(filled.getTime() + hour * HOUR), by: house.maker },
      );
    await readWell(house, fillId, 5.4, new Date(filled.getTime() + 84 * HOUR));
    for (const hour of [84, 110])
      await house.record(
        'temperature.read',
        { lotId: fillId, celsius: 5 },
        { at: new Date(filled.getTime() + hour * HOUR), by: house.maker },
      );
    await applyRules(house.connection.db, new Date(), [fillId]);
    const { lateness, holds } = await watch(fillId);
    expect([
      lateness.state,
      Math.round((lateness.deadline! - filled.getTime()) / HOUR),
      holds.map(({ rule }) => rule),
    ]).toEqual(['late', 72, ['late']]);
  });
  it('W14: brine 4.4 in the first hour, then blended 5.4 at 18 °C: late on day 5, Throw out on day 10, and so on day 29', async () => {
    const filled = hoursAgo(29 * 24 + 2);
    const after = (hours: number): Date => new Date(filled.getTime() + hours * HOUR);
    const fillId = await stood('M2', filled);
    await house.record('ph.read', { lotId: fillId, ph: 4.4, sample: 'brine' }, { at: after(1), by: house.maker });
    for (let day = 0; day < 29; day += 1)
      await house.record('temperature.read', { lotId: fillId, celsius: 18 }, { at: after(day * 24), by: house.maker });
    await readWell(house, fillId, 5.4, after(72));
    // 1,600 degree-hours are passed a little before the five days are.
    expect(await applyRules(house.connection.db, after(114), [fillId])).toBe(0);
    expect(await applyRules(house.connection.db, after(121), [fillId])).toBe(1);
    await readWell(house, fillId, 5.4, after(8 * 24));
    expect((await watch(fillId)).holds.map(({ rule }) => rule)).toEqual(['late']);
    await readWell(house, fillId, 5.4, after(29 * 24));
    await applyRules(house.connection.db, new Date(), [fillId]);
    const { lateness, holds } = await watch(fillId);
    expect(lateness.state).toBe('throwOut');
    expect(holds.map(({ rule }) => rule)).toContain('throwOut');
    expect(holds.every(({ mayLift }) => mayLift !== null))
      .withContext('nothing lifts beside it')
      .toBeTrue();
  });
  it('W14: exactly 20 °C has five days; 20.004 °C has 72 hours', async () => {
    const deadline = async (tag: string, celsius: number): Promise<number> => {
      const filled = hoursAgo(50);
      const fillId = await stood(tag, filled);
      for (const hour of [0, 24, 48])
        await house.record(
          'temperature.read',
          { lotId: fillId, celsius },
          { at: new Date(filled.getTime() + hour * HOUR), by: house.maker },
        );
      return ((await watch(fillId)).lateness.deadline! - filled.getTime()) / HOUR;
    };
    expect(await deadline('M3', 20.004)).toBeCloseTo(72, 1);
    expect(await deadline('M4', 20)).toBeCloseTo(120, 1);
  });
  it('a run is kept warm only to a process on file; its brine and its place stand in its book', async () => {
    const fillId = await stood('M5', daysAgo(25));
    await sour(house, fillId, daysAgo(25));
    const pack = (storage: 'cellar' | 'ambient') =>
      maker.record('pack.run', {
        runLotId: ids.next(),
        from: [{ fillLotId: fillId, grams: 640, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 2 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
        brine: 'fresh',
        storage,
      });
    expect((await pack('ambient')).body.code).toBe('pack.ambient');
    expect((await pack('cellar')).body.code).toBe('pack.cool');
    await house.record('house.rule', { rule: 'storage', option: 'cellar', reason: 'One jar opened every two weeks.' });
    const run = await pack('cellar');
    const { lines } = lotReply.parse(
      (await maker.get(`/api/lots/${String(run.body.recorded[0]!.facts['code'])}`)).body,
    );
    expect(lines.find(({ what }) => what.startsWith('Packed'))!.words).toContain(
      'fresh brine · kept: Cool, 16 °C at most',
    );
    await house.record('house.rule', { rule: 'storage', option: 'cold', reason: null });
  });
  it('a house that starts with kept brine weighs it in, though its formula has no line for it', async () => {
    await house.record('house.rule', { rule: 'starter', option: 'kept', reason: 'always' });
    const donor = await brined('L3', 1500, daysAgo(20));
    await donor.fill();
    await sour(house, donor.fillLotId, daysAgo(20));
    const { batchId } = await brined('L4', 1500, hoursAgo(2));
    const starter = async (): Promise<string | undefined> =>
      makeReply.parse((await maker.get(`/api/making/${batchId}`)).body).steps.find(({ key }) => key === 'starter')
        ?.state;
    expect(await starter()).toBe('open');
    await house.record('ingredient.add', { batchId, fromLotId: donor.fillLotId, grams: 60 }, { by: house.maker });
    expect(await starter()).toBe('done');
    await house.record('house.rule', { rule: 'starter', option: 'wild', reason: null });
  });
});
