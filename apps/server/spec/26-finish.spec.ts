import {
  type BodyOf,
  finishesReply,
  finishReply,
  type FinishReply,
  lotReply,
  runReply,
  timersReply,
  traceReply,
} from '@clear-tally/contract';
import { drained, mixing } from '@clear-tally/core';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, receive, sour } from './oneBatch.js';

const process = (): BodyOf<'heat.process'> => ({
  processId: ids.next(),
  name: 'Sauces in bottles, hot fill',
  formulaId: null,
  limits: {
    method: 'hotFill',
    maxPh: 4,
    sizeMl: 500,
    processC: 85,
    minutes: 12,
    fillC: 82,
    initialC: null,
    headspaceMm: null,
    turnedSeconds: null,
    coverMm: null,
    restMinutes: null,
    cooledC: null,
    lethality: null,
    altitudeM: 60,
  },
  critical: null,
  issuer: 'An authority',
  issuedOn: '2026-03-02',
  validUntil: null,
  document: null,
});

describe('finished before it is packed', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  const names = { vinegar: ids.next(), thickener: ids.next(), honey: ids.next() };
  const lots: Record<keyof typeof names, string> = { vinegar: '', thickener: '', honey: '' };
  let tap = '';
  const fills = { one: '', other: '', ferments: '', last: '' };
  const bowls = new Map<string, string>();
  const bowl = async (tag: string, at: Date, brimMl = 2000): Promise<string> => {
    const vesselId = ids.next();
    await house.record(
      'vessel.add',
      {
        vesselId,
        tag,
        shape: 'glass',
        brimMl,
        maxFill: 0.95,
        minFill: 0.1,
        weightVolumeMl: 0,
        closure: 'loose',
        roomId: house.names.room,
        inUse: true,
      },
      { at },
    );
    return vesselId;
  };
  let batches: { one: string; salt: string };
  const beganAt = daysAgo(4);
  const later = (hours: number): Date => new Date(beganAt.getTime() + hours * 3_600_000);

  const sheet = async (code: string): Promise<FinishReply> =>
    finishReply.parse((await maker.get(`/api/finishes/${code}`)).body);
  const begin = async (
    body: Partial<BodyOf<'finish.begin'>> & Pick<BodyOf<'finish.begin'>, 'what' | 'from' | 'vesselId'>,
  ): Promise<{ id: string; code: string }> => {
    const id = ids.next();
    const recorded = await house.record('finish.begin', { finishLotId: id, ...body }, { at: beganAt, by: house.maker });
    return { id, code: String(recorded.facts['code']) };
  };
  const add = (finishLotId: string, fromLotId: string, grams: number, as: BodyOf<'finish.add'>['as'], at = later(1)) =>
    house.record('finish.add', { finishLotId, fromLotId, grams, as }, { at, by: house.maker });
  const packed = (fillLotId: string, grams: number, more: Partial<BodyOf<'pack.run'>> = {}): BodyOf<'pack.run'> => ({
    runLotId: ids.next(),
    from: [{ fillLotId, grams, empties: false }],
    jars: [{ sizeMl: 330, netGrams: 320, count: Math.floor(grams / 320) }],
    sampleGrams: 0,
    leftoverGrams: 0,
    wasteGrams: grams % 320,
    tallyReason: null,
    brine: 'own',
    storage: 'cold',
    ...more,
  });

  beforeAll(async () => {
    house = await openHouse('spec_finish');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    const at = daysAgo(58);
    for (const [key, name, standsFor] of [
      ['vinegar', 'Cider vinegar', 'vinegar'],
      ['thickener', 'Thickener', 'thickener'],
      ['honey', 'Honey', 'sweet'],
    ] as const) {
      await house.record(
        'material.add',
        {
          materialId: names[key],
          name,
          kind: 'flavouring',
          waterFraction: key === 'vinegar' ? 0.94 : 0.15,
          saltFraction: 0,
          allergens: [],
          caution: null,
          details: { standsFor },
        },
        { at },
      );
      lots[key] = await receive(house, names[key], 5000, `T-${key}`);
    }
    for (const tag of ['G1X', 'G2X', 'G3X', 'G4X', 'G5X']) bowls.set(tag, await bowl(tag, at));
    bowls.set('P3X', await bowl('P3X', at, 30_000));
    bowls.set('C9X', await bowl('C9X', at, 30_000));
    tap = await receive(house, house.names.tap, 50_000, 'T-tap');
    const one = await dryBatch(house, { tag: 'C1', at: daysAgo(40) });
    const other = await dryBatch(house, { tag: 'C2', at: daysAgo(40) });
    const ferments = await dryBatch(house, { tag: 'G1', at: daysAgo(10), produceGrams: 3000, saltGrams: 66 });
    Object.assign(fills, { one: one.fillId, other: other.fillId, ferments: ferments.fillId });
    batches = { one: one.batchId, salt: one.saltLot };
    const last = await dryBatch(house, { tag: 'D2', at: daysAgo(45), produceGrams: 10_000, saltGrams: 220 });
    fills.last = last.fillId;
    for (const id of [fills.one, fills.other, fills.last]) await sour(house, id, daysAgo(40), beganAt);
  }, 90_000);
  afterAll(() => house.close());

  it('what may not be packed is not taken in hand either', async () => {
    const tried = begin({
      what: 'sauce',
      vesselId: house.vessel('D1'),
      from: [{ fillLotId: fills.ferments, grams: 1000, of: 'solids' }],
    });
    await expectAsync(tried).toBeRejectedWithError(/has no pH reading/);
  });
  it('of two batches it is asked whether that is meant', async () => {
    const from = [fills.one, fills.other].map((fillLotId) => ({ fillLotId, grams: 1000, of: 'solids' as const }));
    const asked = await maker.record('finish.begin', {
      finishLotId: ids.next(),
      what: 'sauce',
      vesselId: house.vessel('D1'),
      from,
    });
    expect([asked.body.code, asked.body.facts]).toEqual(['pack.differentBatches', { asks: 'merge' }]);
  });
  it('a vessel that ferments has no sheet, and takes nothing as a finish', async () => {
    expect((await maker.get(`/api/finishes/NY99-001-Z`)).status).toBe(404);
    const tried = await maker.record('finish.add', {
      finishLotId: fills.one,
      fromLotId: lots.vinegar,
      grams: 10,
      as: 'vinegar',
    });
    expect(tried.body.code).toBe('finish.not');
    expect((await maker.record('step.begin', { batchId: fills.one, step: 'drain' })).body.code).toBe('finish.not');
  });

  describe('W15: drained, and repacked in fresh brine', () => {
    let of: { id: string; code: string };
    let run: { id: string; code: string };
    const brineLotId = ids.next();

    it('what was drained is a lot of its own; its vessel keeps the brine', async () => {
      of = await begin({
        what: 'repack',
        vesselId: house.vessel('D1'),
        from: [{ fillLotId: fills.one, grams: 9000, of: 'solids' }],
      });
      const now = await sheet(of.code);
      expect(now.what).toBe('repack');
      expect(now.productGrams).toBe(9000);
      expect(now.sources.map(({ ph, closed }) => [ph, closed])).toEqual([[3.7, false]]);
      expect(now.steps.map(({ key, state }) => `${key} ${state}`)).toEqual([
        'drain done',
        'brine open',
        'pour open',
        'season open',
        'balance open',
      ]);
      expect((await maker.get('/api/shelf')).status).toBe(200);
    });
    it('fresh brine of the same strength leaves the salt where it was; the page says before what comes', async () => {
      const before = await sheet(of.code);
      const strength = before.salt.waterPhase!;
      const salt = Math.round(3000 * strength * 10) / 10;
      await house.record(
        'finish.brine',
        {
          how: 'fresh',
          finishLotId: of.id,
          brineLotId,
          waterLotId: tap,
          waterGrams: 3000 - salt,
          saltLotId: batches.salt,
          saltGrams: salt,
        },
        { at: later(0.5), by: house.maker },
      );
      const ready = await sheet(of.code);
      expect(ready.brines.map(({ boiled, onHandGrams }) => [boiled, onHandGrams])).toEqual([[false, 3000]]);
      const says = mixing({
        product: ready.contents,
        added: ready.brines[0]!.contents,
        sour: false,
        ph: ready.sourcePh,
      });
      await add(of.id, brineLotId, 3000, 'brine');
      const after = await sheet(of.code);
      expect(after.salt.waterPhase!).toBeCloseTo(strength, 4);
      expect(after.salt.waterPhase!).toBeCloseTo(says.waterPhaseSalt!, 6);
      // Of dry shred with w 0.92 drained at 9 kg; the handbook's own figures are W15 in core.
      const product = drained({
        grams: 9000,
        waterFraction: before.contents.waterGrams / 9000,
        waterPhaseSalt: strength,
      });
      const phase = product.waterGrams + product.saltGrams;
      expect(says.acidShare).toBeCloseTo(phase / (phase + 3000), 4);
      expect(after.brines).toEqual([]);
      expect(after.steps.find(({ key }) => key === 'pour')!.state).toBe('done');
    });
    it('it is packed, and not released before a jar was read when it was even', async () => {
      const body = packed(of.id, 9600);
      const recorded = await house.record('pack.run', body, { at: later(2), by: house.maker });
      run = { id: body.runLotId, code: String(recorded.facts['code']) };
      const row = async () =>
        runReply
          .parse((await owner.get(`/api/runs/${run.code}`)).body)
          .conditions.find(({ key }) => key === 'equilibrium')!;
      expect((await row()).state).toBe('open');
      expect((await row()).now).toContain('mixed when it was finished');
      await readWell(house, run.id, 3.79, later(3));
      expect((await row()).state).toBe('open');
      await readWell(house, run.id, 3.81, later(28));
      expect([(await row()).state, (await row()).now]).toEqual(['open', 'pH 3.81: one more, a day apart']);
      await readWell(house, run.id, 3.8, later(53));
      expect([(await row()).state, (await row()).now]).toEqual(['met', 'pH 3.81 and 3.80']);
    });
    it('the list names the vessel it was drained from, as it stood then', async () => {
      const { conditions } = runReply.parse((await owner.get(`/api/runs/${run.code}`)).body);
      const readings = conditions.find(({ key }) => key === 'readings')!;
      expect(readings.state).toBe('met');
      expect(readings.now).toContain('3.74 and 3.70');
    });
    it('a poured mass typed ten times too small is put right, and the salt follows', async () => {
      const { parts } = await sheet(of.code);
      const poured = parts.find(({ as }) => as === 'brine')!;
      const wrong = await owner.record('entry.correct', {
        corrects: poured.entryId,
        reason: 'read off the wrong line',
        instead: {
          kind: 'finish.add',
          happenedAt: poured.at,
          body: { finishLotId: of.id, fromLotId: brineLotId, grams: 2900, as: 'brine' },
        },
      });
      expect(wrong.status).withContext(JSON.stringify(wrong.body)).toBe(200);
      const now = await sheet(of.code);
      expect(now.parts.find(({ as }) => as === 'brine')!.grams).toBe(2900);
      expect(now.brines.map(({ onHandGrams }) => onHandGrams)).toEqual([100]);
    });
  });

  describe('W16: a sauce', () => {
    let of: { id: string; code: string };
    const run = (): BodyOf<'pack.run'> => packed(of.id, 3200);

    it('solids, brine back, vinegar, thickener: each from its lot, each in the next sheet’s range', async () => {
      of = await begin({
        what: 'sauce',
        vesselId: bowls.get('C9X')!,
        from: [{ fillLotId: fills.other, grams: 6000, of: 'solids' }],
      });
      await add(of.id, fills.other, 2100, 'brine');
      await add(of.id, lots.vinegar, 324, 'vinegar');
      await add(of.id, lots.thickener, 12.6, 'thickener');
      const now = await sheet(of.code);
      expect(now.parts.map(({ as, grams }) => [as, grams])).toEqual([
        ['product', 6000],
        ['brine', 2100],
        ['vinegar', 324],
        ['thickener', 12.6],
      ]);
      expect(now.usual.thickener).toBeNull();
      expect(now.restarts).toEqual([]);
      const { finishes } = finishesReply.parse((await maker.get('/api/finishes')).body);
      expect(finishes.find(({ code }) => code === of.code)!.waits).toBe('Blend, with brine back in steps');
    });
    it('it is not bottled before it is read itself', async () => {
      const tried = house.record('pack.run', run(), { at: later(2), by: house.maker });
      await expectAsync(tried).toBeRejectedWithError(/finished and not read/);
      await readWell(house, of.id, 3.62, later(2));
      const once = house.record('pack.run', run(), { at: later(2), by: house.maker });
      await expectAsync(once).toBeRejectedWithError(/finished and read once/);
      await readWell(house, of.id, 3.6, later(27));
      const { gate } = await sheet(of.code);
      expect(gate.map(({ key, state }) => `${key} ${state}`)).toEqual([
        'pair met',
        'acid met',
        'rising met',
        'hold met',
      ]);
    });
    it('honey starts it again: the cellar is refused, the cold chain is not, and it is read anew', async () => {
      await add(of.id, lots.honey, 100, 'spice', later(28));
      expect((await sheet(of.code)).restarts).toEqual(['Honey']);
      const unread = house.record('pack.run', run(), { at: later(29), by: house.maker });
      await expectAsync(unread).toBeRejectedWithError(/finished and not read/);
      await readWell(house, of.id, 3.66, later(29));
      await readWell(house, of.id, 3.64, later(54));
      const cellar = house.record('pack.run', { ...run(), storage: 'cellar' }, { at: later(55), by: house.maker });
      await expectAsync(cellar).toBeRejectedWithError(/Honey went in after fermentation: it starts again/);
    });
    it('bottles settle, are levelled from one of their own, and are closed for good', async () => {
      const body = { ...run(), closeLater: true as const };
      const recorded = await house.record('pack.run', body, { at: later(55), by: house.maker });
      const code = String(recorded.facts['code']);
      const closed = async () =>
        runReply.parse((await owner.get(`/api/runs/${code}`)).body).conditions.find(({ key }) => key === 'closed')!;
      expect((await closed()).state).toBe('open');
      const level = (bottle: number | null) =>
        maker.record('run.level', { runLotId: body.runLotId, bottle, capped: true, note: null });
      expect((await level(11)).body.code).toBe('jar.unknown');
      expect((await level(10)).status).toBe(200);
      expect((await level(10)).body.code).toBe('jar.notHere');
      expect((await closed()).state).toBe('met');
      const reply = runReply.parse((await owner.get(`/api/runs/${code}`)).body);
      expect(reply.jars.map(({ first, last, where }) => [first, last, where])).toEqual([
        [1, 9, 'where it was packed'],
        [10, 10, 'topped up its siblings'],
      ]);
      // What topped up the others is in them: nothing left the run.
      const tally = reply.conditions.find(({ key }) => key === 'tally')!;
      expect(tally.state).toBe('met');
    });
    it('the next sheet shows what this house has used', async () => {
      const next = await begin({
        what: 'sauce',
        vesselId: bowls.get('G1X')!,
        from: [{ fillLotId: fills.other, grams: 1000, of: 'solids' }],
      });
      const { usual } = await sheet(next.code);
      expect(usual.brine).toEqual({ from: 0.35, to: 0.35, lots: 1 });
      expect(usual.vinegar!.from).toBeCloseTo(324 / 8100, 6);
      expect(usual.thickener!.from).toBeCloseTo(12.6 / 8424, 6);
    });
  });

  it('garlic put in after fermentation closes the way ambient; a process on file does not open it', async () => {
    const crock = await bowl('B9X', daysAgo(50), 8000);
    const own = await dryBatch(
      { ...house, vessel: () => crock },
      { tag: 'B9X', at: daysAgo(40), produceGrams: 6000, saltGrams: 132 },
    );
    await sour(house, own.fillId, daysAgo(40), beganAt);
    const raw = await receive(house, house.names.turnip, 500, 'T-raw');
    const of = await begin({
      what: 'sauce',
      vesselId: await bowl('G8X', daysAgo(30)),
      from: [{ fillLotId: own.fillId, grams: 900, of: 'solids' }],
    });
    const at = later(6);
    await house.record('heat.process', process(), { at: daysAgo(30) });
    await readWell(house, of.id, 3.6, at);
    const ambient = { ...packed(of.id, 640), storage: 'ambient' as const };
    const tried = () => house.record('pack.run', ambient, { at: later(40), by: house.maker });
    await add(of.id, raw, 60, 'spice', later(7));
    await readWell(house, of.id, 3.6, later(8));
    await readWell(house, of.id, 3.6, later(33));
    await expectAsync(tried()).toBeRejectedWithError(/went in after fermentation and brings no acid/);
  });

  it('its own brine is boiled: what boiled away raises the salt, and more than went in is refused', async () => {
    const lot = await begin({
      what: 'repack',
      vesselId: bowls.get('G2X')!,
      from: [{ fillLotId: fills.other, grams: 500, of: 'solids' }],
    });
    const boil = (leftGrams: number) =>
      maker.record('finish.brine', {
        how: 'boiled',
        finishLotId: lot.id,
        brineLotId: ids.next(),
        fromLotId: fills.other,
        grams: 1000,
        leftGrams,
      });
    expect((await boil(1100)).body.code).toBe('lot.overdrawn');
    expect((await boil(800)).status).toBe(200);
    const now = await sheet(lot.code);
    const [brine] = now.brines;
    expect([brine!.boiledOffGrams, brine!.onHandGrams]).toEqual([200, 800]);
    const phase = now.sources[0]!.contents;
    const before = phase.saltGrams / (phase.saltGrams + phase.waterGrams);
    expect(brine!.contents.saltGrams / 800).toBeCloseTo((before * 1000) / 800, 3);
  });
  it('dried by weight: without a water activity it stays cold', async () => {
    const lot = await begin({
      what: 'drying',
      vesselId: bowls.get('G3X')!,
      from: [{ fillLotId: fills.other, grams: 600, of: 'solids' }],
    });
    const dry = (leftGrams: number, waterActivity: number | null) =>
      maker.record('finish.dry', { finishLotId: lot.id, celsius: 55, hours: 9, leftGrams, waterActivity });
    expect((await dry(700, null)).body.code).toBe('lot.overdrawn');
    expect((await dry(90, null)).status).toBe(200);
    expect((await sheet(lot.code)).onHandGrams).toBe(90);
    const pack = { ...packed(lot.id, 90), jars: [{ sizeMl: 100, netGrams: 30, count: 3 }], wasteGrams: 0 };
    expect((await maker.record('pack.run', { ...pack, storage: 'cellar' })).body.code).toBe('finish.notMeasured');
    expect((await dry(90, 0.52)).status).toBe(200);
    expect((await maker.record('pack.run', { ...pack, storage: 'cellar' })).status).toBe(200);
  });
  it('a vessel whose pieces are out is no product: its brine is not packed, and goes back', async () => {
    const all = await begin({
      what: 'sauce',
      vesselId: bowls.get('P3X')!,
      from: [{ fillLotId: fills.last, grams: 9990, of: 'solids' }],
    });
    const tried = house.record(
      'pack.run',
      packed(fills.last, 200, { jars: [{ sizeMl: 100, netGrams: 100, count: 2 }], wasteGrams: 0 }),
      { at: later(2), by: house.maker },
    );
    await expectAsync(tried).toBeRejectedWithError(/was drained: only its brine is left/);
    const again = begin({
      what: 'repack',
      vesselId: bowls.get('G5X')!,
      from: [{ fillLotId: fills.last, grams: 100, of: 'all' }],
    });
    await expectAsync(again).toBeRejectedWithError(/was drained/);
    await add(all.id, fills.last, 200, 'brine');
    expect((await sheet(all.code)).parts.map(({ as, grams }) => [as, grams])).toContain(['brine', 200]);
  });
  it('what is thinned reads higher, and that is no acid being eaten', async () => {
    const lot = await begin({
      what: 'repack',
      vesselId: bowls.get('G5X')!,
      from: [{ fillLotId: fills.other, grams: 400, of: 'solids' }],
    });
    await readWell(house, lot.id, 3.55, later(1));
    await add(lot.id, tap, 300, 'water', later(2));
    await readWell(house, lot.id, 3.86, later(3));
    expect(lotReply.parse((await maker.get(`/api/lots/${lot.code}`)).body).hold).toBeNull();
  });
  it('a timer of its sheet says that it stands on the sheet of a finish', async () => {
    const { finishes } = finishesReply.parse((await maker.get('/api/finishes')).body);
    const [of] = finishes;
    const timerId = ids.next();
    const started = await maker.record('timer.start', {
      timerId,
      batchId: of!.lotId,
      step: 'thicken',
      words: 'Thicken, sieve',
      minutes: 10,
    });
    expect(started.status).withContext(JSON.stringify(started.body)).toBe(200);
    const { timers } = timersReply.parse((await maker.get('/api/timers')).body);
    expect(timers.find((one) => one.timerId === timerId)).toEqual(
      jasmine.objectContaining({ finish: true, batchCode: of!.code }),
    );
  });
  it('juice is a lot of its own, with all that is known of its vessel', async () => {
    const lotId = ids.next();
    const taken = await maker.record('finish.byProduct', {
      lotId,
      fromLotId: fills.other,
      as: 'juice',
      name: 'Brine for the kitchen',
      grams: 300,
    });
    expect(taken.status).withContext(JSON.stringify(taken.body)).toBe(200);
    const code = String(taken.body.recorded[0]!.facts['code']);
    const lot = lotReply.parse((await maker.get(`/api/lots/${code}`)).body);
    expect([lot.name, lot.tally.onHandGrams]).toEqual(['Brine for the kitchen', 300]);
    const { nodes } = traceReply.parse((await maker.get(`/api/trace/${code}`)).body);
    expect(nodes.filter(({ kind }) => kind === 'supply').map(({ name }) => name)).toEqual(
      jasmine.arrayContaining(['Shred', 'Coarse pan salt']),
    );
  });
  it('its steps are begun and ended like those of a batch, with their questions', async () => {
    const lot = await begin({
      what: 'infusion',
      vesselId: bowls.get('G4X')!,
      from: [{ fillLotId: fills.other, grams: 400, of: 'solids' }],
    });
    const finish = (step: string, more: object = {}) =>
      maker.record('step.finish', {
        batchId: lot.id,
        step,
        minutes: null,
        checked: ['clean', 'weights'],
        skipped: null,
        note: null,
        ...more,
      });
    expect((await maker.record('step.begin', { batchId: lot.id, step: 'drain' })).status).toBe(200);
    expect((await finish('drain')).status).toBe(200);
    expect((await finish('drain')).body.code).toBe('making.stepDone');
    expect((await finish('blend')).body.code).toBe('making.stepUnknown');
    expect((await finish('syrup', { checked: ['covered'] })).body.code).toBe('making.stepOpen');
    const { steps } = await sheet(lot.code);
    expect(steps.find(({ key }) => key === 'drain')!.by).toBe('Ma');
    expect(steps.find(({ key }) => key === 'syrup')!.open).toBe('nothing covers it yet');
  });
});
