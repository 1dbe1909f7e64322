import { lotReply, makeReply, startersReply, timersReply, type BodyOf, type MakeReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, receive } from './oneBatch.js';

describe('the making day', () => {
  let house: TestHouse;
  let client: Client;
  let lots: { turnip: string; salt: string; tap: string; pepper: string; leaf: string };
  const heavy = ids.next();
  const refusalOf = (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'recorded',
      (error: { refusal: { code: string } }) => error.refusal.code,
    );
  const make = async (batchId: string): Promise<MakeReply> =>
    makeReply.parse((await client.get(`/api/making/${batchId}`)).body);
  const at = (minutes: number): Date => new Date(daysAgo(2, 8).getTime() + minutes * 60_000);
  const by = () => ({ by: house.maker });

  async function start(formulaId: string, grams: number, when = at(0)): Promise<string> {
    const batchId = ids.next();
    await house.record(
      'batch.start',
      { batchId, formulaId, version: 1, plan: { from: 'trimmed', trimmedGrams: grams } },
      { at: when, ...by() },
    );
    return batchId;
  }

  /** W3: 7.2 kg of turnips, brine at 2.6 % of everything, more made than is poured. */
  async function brined(options: {
    waterGrams?: number;
    fillGrams?: number;
    pour?: number;
    tag: string;
    when?: number;
  }): Promise<{ batchId: string; brineLotId: string; fillLotId: string }> {
    const { waterGrams = 5500, pour = 5200, tag, when = 0 } = options;
    const batchId = await start(house.names.brined, 7200, at(when));
    const [brineLotId, fillLotId] = [ids.next(), ids.next()];
    await house.record(
      'produce.weigh',
      { batchId, supplyLotId: lots.turnip, trimmedGrams: 7200, trimWasteGrams: 0 },
      { at: at(when + 5), ...by() },
    );
    await house.record(
      'brine.make',
      { brineLotId, batchId, waterLotId: lots.tap, waterGrams },
      { at: at(when + 8), ...by() },
    );
    const { salt } = await make(batchId);
    await house.record(
      'salt.weigh',
      { batchId, saltLotId: lots.salt, grams: Math.round(salt.targetGrams), alreadyIn: false },
      { at: at(when + 10), ...by() },
    );
    await house.record(
      'ingredient.add',
      { batchId, fromLotId: lots.pepper, grams: 22 },
      { at: at(when + 12), ...by() },
    );
    await house.record(
      'vessel.fill',
      { fillLotId, batchId, vesselId: house.vessel(tag), grams: 7210, brine: { brineLotId, grams: pour } },
      { at: at(when + 20), ...by() },
    );
    return { batchId, brineLotId, fillLotId };
  }

  beforeAll(async () => {
    house = await openHouse('spec_making');
    client = await Client.signIn(house, house.maker);
    const { names } = house;
    lots = {
      turnip: await receive(house, names.turnip, 60_000, 'T1'),
      salt: await receive(house, names.salt, 25_000, 'S1'),
      tap: await receive(house, names.tap, 1, 'tap'),
      pepper: await receive(house, names.pepper, 2000, 'P1'),
      leaf: await receive(house, names.shred, 30_000, 'L1'),
    };
    await house.record(
      'formula.save',
      {
        formulaId: heavy,
        number: 3,
        version: 1,
        name: 'Leaf and paste',
        style: 'heavySaltPaste',
        produce: [{ materialId: names.shred, share: 1 }],
        saltBasis: 'ofVegetable',
        saltFraction: 0.1,
        waterPerProduce: 0,
        lines: [{ materialId: names.pepper, scaleBy: 'mainMass', amount: 0.004 }],
        heavy: { minutes: 90, cut: 'leaf', rinses: 3, litresPerKg: 2, drainYield: 0.8, wanted: 0.026 },
        solidsFraction: 1,
        yields: { trim: 0.8, ferment: 0.9, pack: 0.97 },
        jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
        usualDays: 10,
        note: null,
        steps: [
          { words: 'Turn.', minutes: 30, at: 'rest' },
          { words: 'Rest to the end.', minutes: 60, at: 'rest' },
        ],
      },
      { at: daysAgo(40) },
    );
  });
  afterAll(() => house.close());

  describe('steps', () => {
    let batchId: string;
    const finish = (step: string, over: Partial<BodyOf<'step.finish'>> = {}) => ({
      batchId,
      step,
      minutes: null,
      checked: [],
      skipped: null,
      note: null,
      ...over,
    });
    beforeAll(async () => {
      ({ batchId } = await brined({ tag: 'D1' }));
    });

    it('what is weighed shows its step as done; what nobody touched is open', async () => {
      const states = Object.fromEntries((await make(batchId)).steps.map((step) => [step.key, step.state]));
      expect(states).toEqual({
        inspect: 'open',
        weigh: 'done',
        water: 'done',
        salt: 'done',
        flavour: 'done',
        clean: 'open',
        fill: 'done',
        close: 'open',
        label: 'open',
      });
    });
    it('begun and finished are labour minutes, in the book by name', async () => {
      await house.record('step.begin', { batchId, step: 'inspect' }, { at: at(1), ...by() });
      await house.record('step.finish', finish('inspect', { checked: ['firm', 'ends', 'pierced', 'washed'] }), {
        at: at(5),
        ...by(),
      });
      const inspect = (await make(batchId)).steps.find((step) => step.key === 'inspect')!;
      expect([inspect.state, inspect.labourMinutes, inspect.by]).toEqual(['done', 4, 'Ma']);
    });
    it('two people at the same step: the second is told who was first, and nothing is written twice', async () => {
      const answer = await client.record(
        'step.finish',
        finish('inspect', { checked: ['firm', 'ends', 'pierced', 'washed'] }),
      );
      expect([answer.status, answer.body.code]).toEqual([409, 'making.stepDone']);
      expect(answer.body.detail).toContain('Ma person at');
    });
    it('what is not ticked is named, with a reason', async () => {
      const bare = await client.record('step.finish', finish('clean'));
      expect([bare.body.code, bare.body.field]).toEqual(['making.unchecked', 'checked']);
      await house.record(
        'step.finish',
        finish('clean', { checked: ['washed'], note: 'dry since Friday, looked at by lamp' }),
        by(),
      );
      expect((await make(batchId)).steps.find((step) => step.key === 'clean')!.unchecked.length).toBe(2);
    });
    it('no step of another sheet', async () =>
      expect(await refusalOf(house.record('step.begin', { batchId, step: 'rinse' }, by()))).toBe('making.stepUnknown'));
    it('the batch closes when steps, bowls, labels and left-over brine are settled; then nothing more goes in', async () => {
      expect(await refusalOf(house.record('batch.close', { batchId, note: null }, by()))).toBe('making.stepsOpen');
      await house.record(
        'step.finish',
        finish('close', { checked: ['air', 'heavy', 'headspace', 'tray', 'counted', 'lid', 'dark'] }),
        by(),
      );
      await house.record('step.finish', finish('label', { skipped: 'printer jammed, written by hand' }), by());
      const open = await make(batchId);
      const left = open.inBowlsGrams;
      if (left > 0)
        await house.record('loss.record', { lotId: batchId, sink: 'residue', grams: left, note: null }, by());
      expect(await refusalOf(house.record('batch.close', { batchId, note: null }, by()))).toBe('brine.unanswered');
      await house.record(
        'brine.left',
        {
          brineLotId: open.brine!.lotId,
          grams: open.brine!.onHandGrams,
          touched: 'never',
          fillLotId: null,
          keptLotId: null,
        },
        by(),
      );
      const closed = await house.record('batch.close', { batchId, note: null }, by());
      expect(closed.facts['skipped']).toEqual(['Label before the lid']);
      expect(await refusalOf(house.record('ingredient.add', { batchId, fromLotId: lots.pepper, grams: 5 }, by()))).toBe(
        'lot.closed',
      );
      const page = lotReply.parse((await client.get(`/api/lots/${open.code}`)).body);
      expect(page.lines.find((line) => line.kind === 'batch.close')!.words).toContain('skipped: Label before the lid');
    });
  });

  describe('formula lines', () => {
    it('weighed, ticked, or left out with its reason; the last word counts', async () => {
      const batchId = await start(house.names.brined, 7200);
      const line = async () => (await make(batchId)).lines[0]!;
      expect((await line()).state).toBe('open');
      await house.record('line.settle', { how: 'leftOut', batchId, line: 'line-0', reason: 'none in the house' }, by());
      expect([(await line()).state, (await line()).reason]).toEqual(['leftOut', 'none in the house']);
      expect(
        await refusalOf(house.record('line.settle', { how: 'ticked', batchId, line: 'line-0', note: null }, by())),
      ).toBe('line.lotUnknown');
      await house.record(
        'line.settle',
        { how: 'ticked', batchId, line: 'line-0', note: 'out of the unlabelled jar' },
        by(),
      );
      expect((await line()).state).toBe('ticked');
      await house.record(
        'produce.weigh',
        { batchId, supplyLotId: lots.turnip, trimmedGrams: 3600, trimWasteGrams: 0 },
        by(),
      );
      await house.record('ingredient.add', { batchId, fromLotId: lots.pepper, grams: 11, line: 'line-0' }, by());
      expect([(await line()).state, (await line()).inGrams, (await line()).plannedGrams]).toEqual([
        'weighed',
        11,
        10.8,
      ]);
      expect(
        await refusalOf(house.record('line.settle', { how: 'ticked', batchId, line: 'line-9', note: null }, by())),
      ).toBe('making.stepUnknown');
    });
    it('in, not weighed, of a lot: its planned mass leaves the lot, and every trace finds it', async () => {
      const batchId = await start(house.names.brined, 7200);
      await house.record(
        'produce.weigh',
        { batchId, supplyLotId: lots.turnip, trimmedGrams: 3600, trimWasteGrams: 0 },
        by(),
      );
      const recorded = await house.record(
        'line.settle',
        { how: 'ticked', batchId, line: 'line-0', note: null, fromLotId: lots.pepper },
        by(),
      );
      expect(recorded.facts).toEqual(jasmine.objectContaining({ notWeighed: true, grams: 10.8 }));
      const { lines, code, inBowlsGrams } = await make(batchId);
      expect([lines[0]!.state, lines[0]!.inGrams, inBowlsGrams]).toEqual(['ticked', 10.8, 3610.8]);
      const page = lotReply.parse((await client.get(`/api/lots/${code}`)).body);
      expect(
        page.relatives.some((one) => one.direction === 'in' && one.lotId === lots.pepper && one.grams === 10.8),
      ).toBeTrue();
      expect(page.lines.find((one) => one.kind === 'line.settle')!.words).toMatch(/^about 11 g · of /);
      expect(
        await refusalOf(
          house.record(
            'line.settle',
            { how: 'ticked', batchId, line: 'line-0', note: null, fromLotId: lots.turnip },
            by(),
          ),
        ),
      ).toBe('lot.wrongKind');
    });
    it('in, not weighed, of a lot past its date: only with the reason', async () => {
      const batchId = await start(house.names.brined, 7200);
      const { lots: known } = (await client.get<{ lots: { lotId: string; materialId: string }[] }>('/api/supplies'))
        .body;
      const old = ids.next();
      await house.record(
        'supply.receive',
        {
          lotId: old,
          materialId: known.find(({ lotId }) => lotId === lots.pepper)!.materialId,
          supplierId: house.names.supplier,
          supplierLotCode: 'old',
          grams: 200,
          useBy: daysAgo(20).toISOString().slice(0, 10),
          condition: null,
        },
        { at: daysAgo(30) },
      );
      const tick = (note: string | null) =>
        house.record('line.settle', { how: 'ticked', batchId, line: 'line-0', note, fromLotId: old }, by());
      expect(await refusalOf(tick(null))).toBe('stock.past');
      expect((await tick('dry and whole')).facts['notWeighed']).toBeTrue();
    });
    it('a step whose target is not met wants a reason, and the book keeps it', async () => {
      const batchId = await start(house.names.brined, 7200);
      const finish = (note: string | null) =>
        house.record('step.finish', { batchId, step: 'salt', minutes: null, checked: [], skipped: null, note }, by());
      expect(await refusalOf(finish(null))).toBe('making.stepOpen');
      await finish('the scale broke');
      const salt = (await make(batchId)).steps.find(({ key }) => key === 'salt')!;
      expect([salt.state, salt.note]).withContext('left so is not done').toEqual(['skipped', 'the scale broke']);
      expect(salt.open).toContain('of salt is in');
    });
    it('the rest of a portion goes back to its lot: the weighing stands with what went in', async () => {
      const batchId = await start(house.names.brined, 7200);
      await house.record(
        'produce.weigh',
        { batchId, supplyLotId: lots.turnip, trimmedGrams: 3600, trimWasteGrams: 0 },
        by(),
      );
      const weighed = await house.record('ingredient.add', { batchId, fromLotId: lots.pepper, grams: 30 }, by());
      await house.record('remainder.return', { batchId, of: weighed.id, grams: 19, keepsUntil: null }, by());
      const after = await make(batchId);
      expect(after.ingredients[0]!.grams).toBe(11);
      expect(after.inBowlsGrams).toBe(3611);
      const page = lotReply.parse((await client.get(`/api/lots/${after.code}`)).body);
      expect(page.lines.find((row) => row.entryId === weighed.id)).toEqual(
        jasmine.objectContaining({ figure: '11 g', struck: ['30 g'] }),
      );
      expect(
        await refusalOf(
          house.record('remainder.return', { batchId, of: weighed.id, grams: 11, keepsUntil: null }, by()),
        ),
      ).toBe('lot.overdrawn');
    });
    it('stock past its date goes in only with a written reason', async () => {
      const batchId = await start(house.names.brined, 7200, new Date());
      const old = ids.next();
      await house.record(
        'supply.receive',
        {
          lotId: old,
          materialId: house.names.pepper,
          supplierId: house.names.supplier,
          supplierLotCode: 'old',
          grams: 500,
          useBy: daysAgo(1).toISOString().slice(0, 10),
          condition: null,
        },
        { at: daysAgo(30) },
      );
      expect(await refusalOf(house.record('ingredient.add', { batchId, fromLotId: old, grams: 5 }, by()))).toBe(
        'stock.past',
      );
      expect(
        await refusalOf(
          house.record(
            'ingredient.add',
            { batchId, fromLotId: old, grams: 5, pastReason: 'dry and whole, smells as it should' },
            by(),
          ),
        ),
      ).toBe('recorded');
    });
  });

  describe('timers', () => {
    it('run on the server: another tablet, or the same after a restart, sees them end at the same moment', async () => {
      const [timerId, other] = [ids.next(), ids.next()];
      const startedAt = new Date(Date.now() - 4 * 60_000);
      await house.record(
        'timer.start',
        { timerId, batchId: null, step: null, words: 'Rest, bowl 1', minutes: 10 },
        { at: startedAt, ...by() },
      );
      await house.record(
        'timer.start',
        { timerId: other, batchId: null, step: null, words: 'Rest, bowl 2', minutes: 1 },
        { at: startedAt, ...by() },
      );
      const second = await Client.signIn(house, house.owner);
      const { timers } = timersReply.parse((await second.get('/api/timers')).body);
      expect(timers.map((timer) => timer.words)).toEqual(['Rest, bowl 2', 'Rest, bowl 1']);
      expect(timers[1]!.endsAt).toBe(new Date(startedAt.getTime() + 600_000).toISOString());
      await house.record('timer.stop', { timerId: other }, by());
      expect(timersReply.parse((await second.get('/api/timers')).body).timers.length).toBe(1);
      expect((await client.record('timer.stop', { timerId: other })).body.code).toBe('timer.unknown');
      await house.record('timer.stop', { timerId }, by());
    });
    it('of a batch end with it: nothing rings for what is closed', async () => {
      const timerId = ids.next();
      const running = async (): Promise<string[]> =>
        timersReply.parse((await client.get('/api/timers')).body).timers.map((timer) => timer.timerId);
      const { batchId } = await dryBatch(house, { tag: 'C2', fill: false });
      await house.record('timer.start', { timerId, batchId, step: 'salt', words: 'Rest', minutes: 10 }, by());
      expect(await running()).toContain(timerId);
      await house.connection.pool.query('update lot set closed_at = now() where id = $1', [batchId]);
      expect(await running()).not.toContain(timerId);
    });
  });

  describe('the salt', () => {
    it('recorded on an old sight of the batch: refused with the new figures, nothing changed', async () => {
      const { batchId, saltEntry } = await dryBatch(house, { tag: 'C1', fill: false });
      const saw = { inGrams: 0, targetGrams: 321.2 };
      const answer = await client.record('salt.weigh', {
        batchId,
        saltLotId: lots.salt,
        grams: 5,
        alreadyIn: true,
        saw,
      });
      expect([answer.status, answer.body.code, (answer.body.facts as { inGrams: number }).inGrams]).toEqual([
        409,
        'making.changedMeanwhile',
        321,
      ]);
      await house.record('entry.correct', {
        corrects: saltEntry,
        reason: 'read again',
        right: { kind: 'salt.weigh', grams: 310 },
      });
      expect(
        await refusalOf(
          house.record(
            'salt.weigh',
            { batchId, saltLotId: lots.salt, grams: 11, alreadyIn: false, saw: { inGrams: 321, targetGrams: 321.2 } },
            by(),
          ),
        ),
      ).toBe('making.changedMeanwhile');
      expect(
        await refusalOf(
          house.record(
            'salt.weigh',
            { batchId, saltLotId: lots.salt, grams: 11, alreadyIn: false, saw: { inGrams: 310, targetGrams: 321.2 } },
            by(),
          ),
        ),
      ).toBe('recorded');
    });
    it('confirmed by a second person where the house wants it, and again after another portion', async () => {
      await house.record('house.rule', { rule: 'secondPerson', option: 'yes', reason: null });
      const { batchId, saltLot } = await dryBatch(house, { tag: 'C1', fill: false, saltGrams: 300 });
      await house.record('house.rule', { rule: 'secondPerson', option: 'no', reason: 'One person works here.' });
      const fill = (grams: number) =>
        refusalOf(
          house.record(
            'vessel.fill',
            { fillLotId: ids.next(), batchId, vesselId: house.vessel('C1'), grams, brine: null },
            by(),
          ),
        );
      await house.record('salt.weigh', { batchId, saltLotId: saltLot, grams: 12, alreadyIn: false }, by());
      expect(await fill(14_900)).toBe('salt.notConfirmed');
      expect(await refusalOf(house.record('salt.confirm', { batchId, sawGrams: 312 }, by()))).toBe('salt.samePerson');
      expect(await refusalOf(house.record('salt.confirm', { batchId, sawGrams: 300 }))).toBe('making.changedMeanwhile');
      await house.record('salt.confirm', { batchId, sawGrams: 312 });
      await house.record('salt.weigh', { batchId, saltLotId: saltLot, grams: 9, alreadyIn: false }, by());
      expect(await fill(14_900)).toBe('salt.notConfirmed');
      await house.record('salt.confirm', { batchId, sawGrams: 321 });
      expect((await make(batchId)).confirmation).toEqual(jasmine.objectContaining({ wanted: true, by: 'Ow person' }));
      expect(await fill(14_900)).toBe('recorded');
    });
  });

  describe('W12: brine used twice', () => {
    let a: Awaited<ReturnType<typeof brined>>;
    let c: string;
    let keptLot: string;
    const reached = async (code: string): Promise<string[]> => {
      const { body } = await client.get<{ nodes: { code: string }[] }>(`/api/trace/${code}`);
      return body.nodes.map((node) => node.code);
    };
    const codeOf = async (batchId: string): Promise<string> => (await make(batchId)).code;

    beforeAll(async () => {
      a = await brined({ tag: 'D2', waterGrams: 8600, pour: 5200, when: 60 });
    });

    it('what is left goes nowhere before the question is answered', async () => {
      c = await start(house.names.brined, 4000, at(100));
      await house.record(
        'produce.weigh',
        { batchId: c, supplyLotId: lots.turnip, trimmedGrams: 4000, trimWasteGrams: 0 },
        { at: at(101), ...by() },
      );
      expect(
        await refusalOf(
          house.record(
            'brine.join',
            { batchId: c, fromLotId: a.brineLotId, brineLotId: ids.next(), grams: 3000 },
            { at: at(102), ...by() },
          ),
        ),
      ).toBe('brine.unanswered');
    });
    it('never touched: it joins another batch’s brine with its salt, and that batch’s target counts it', async () => {
      await house.record(
        'brine.left',
        {
          brineLotId: a.brineLotId,
          grams: (await make(a.batchId)).brine!.onHandGrams,
          touched: 'never',
          fillLotId: null,
          keptLotId: null,
        },
        { at: at(102), ...by() },
      );
      await house.record(
        'brine.join',
        { batchId: c, fromLotId: a.brineLotId, brineLotId: ids.next(), grams: 3000 },
        { at: at(103), ...by() },
      );
      const { salt, brine } = await make(c);
      expect(brine!.waterGrams + brine!.saltGrams).toBeCloseTo(3000, 0);
      // The same formula, so the same strength: nothing is missing for what has come.
      expect(Math.abs(salt.inGrams - salt.targetGrams) / salt.targetGrams).toBeLessThan(0.03);
    });
    it('more than is left is refused', async () =>
      expect(
        await refusalOf(
          house.record(
            'brine.join',
            { batchId: c, fromLotId: a.brineLotId, brineLotId: ids.next(), grams: 30_000 },
            { at: at(104), ...by() },
          ),
        ),
      ).toBe('lot.overdrawn'));
    it('kept only from a vessel at the limit; one generation on, with its last day', async () => {
      keptLot = ids.next();
      const keep = (lotId: string) =>
        house.record(
          'brine.keep',
          { lotId, fillLotId: a.fillLotId, grams: 350, useBy: null },
          { at: at(200), ...by() },
        );
      expect(await refusalOf(keep(ids.next()))).toBe('pack.noPh');
      await house.record('ph.read', { lotId: a.fillLotId, ph: 3.7, sample: 'brine' }, { at: at(150), ...by() });
      expect(await refusalOf(keep(ids.next())))
        .withContext('brine alone opens nothing')
        .toBe('pack.noPh');
      await readWell(house, a.fillLotId, 3.7, at(160));
      expect((await keep(keptLot)).facts).toEqual(jasmine.objectContaining({ generation: 1 }));
    });
    it('it starts B, and B’s own brine is the second generation', async () => {
      const b = await start(house.names.brined, 3600, at(210));
      await house.record('ingredient.add', { batchId: b, fromLotId: keptLot, grams: 200 }, { at: at(212), ...by() });
      const { starters } = startersReply.parse((await client.get('/api/starters')).body);
      expect(starters.find((row) => row.lotId === keptLot)).toEqual(
        jasmine.objectContaining({ kind: 'keptBrine', generation: 1, refusal: null, onHandGrams: 150 }),
      );
      expect(await reached(await codeOf(b))).toContain(await codeOf(a.batchId));
    });
    it('C shares the brine with A and nothing else of it', async () => {
      const found = await reached((await make(c)).brine!.code);
      const codeA = await codeOf(a.batchId);
      expect(found).toContain(`${codeA}-b1`);
      expect(found).not.toContain(codeA);
    });
    it('A on hold cannot donate, nor does what was taken from it before', async () => {
      await house.record('hold.place', { lotId: a.fillLotId, reason: 'film' }, by());
      const d = await start(house.names.brined, 3600);
      expect(await refusalOf(house.record('ingredient.add', { batchId: d, fromLotId: keptLot, grams: 50 }, by()))).toBe(
        'lot.onHold',
      );
      expect(
        await refusalOf(
          house.record('brine.keep', { lotId: ids.next(), fillLotId: a.fillLotId, grams: 50, useBy: null }, by()),
        ),
      ).toBe('lot.onHold');
    });
    it('poured off the product: what is left descends from the vessel', async () => {
      const batch = await brined({ tag: 'C2', when: 320 });
      const { brine, code } = await make(batch.batchId);
      const kept = ids.next();
      const answer = await house.record(
        'brine.left',
        {
          brineLotId: batch.brineLotId,
          grams: brine!.onHandGrams,
          touched: 'pouredOff',
          fillLotId: batch.fillLotId,
          keptLotId: kept,
        },
        { at: at(400), ...by() },
      );
      expect(await reached(String(answer.facts['code']))).toContain(code);
    });
  });

  describe('preparations', () => {
    it('W6: a woken culture brings its water with it, and the water phase says so', async () => {
      const { batchId } = await dryBatch(house, { tag: 'C2', produceGrams: 12_000, saltGrams: 264, fill: false });
      const before = (await make(batchId)).salt.waterPhaseSalt;
      const [sachet, woken] = [ids.next(), ids.next()];
      await house.record(
        'supply.receive',
        {
          lotId: sachet,
          materialId: house.names.pepper,
          supplierId: house.names.supplier,
          supplierLotCode: 'cult',
          grams: 100,
          useBy: null,
          condition: null,
        },
        { at: daysAgo(40) },
      );
      await house.record(
        'preparation.make',
        {
          lotId: woken,
          batchId,
          form: 'culture',
          name: 'Culture in its cup',
          parts: [{ fromLotId: lots.tap, grams: 300 }],
          boiledOffGrams: 0,
        },
        by(),
      );
      await house.record('ingredient.add', { batchId, fromLotId: woken, grams: 300 }, by());
      const after = await make(batchId);
      expect([before, after.salt.waterPhaseSalt].map((wps) => (wps * 100).toFixed(2))).toEqual(['2.34', '2.28']);
      expect(after.preparations.find((row) => row.form === 'culture')).toEqual(
        jasmine.objectContaining({ madeGrams: 300, onHandGrams: 0 }),
      );
    });
    it('what boils off is gone; more than went in cannot', async () => {
      const batchId = await start(heavy, 1000);
      const lotId = ids.next();
      const body = {
        lotId,
        batchId,
        form: 'porridge' as const,
        name: 'Porridge',
        parts: [
          { fromLotId: lots.tap, grams: 500 },
          { fromLotId: lots.pepper, grams: 4, line: 'line-0' },
        ],
        boiledOffGrams: 80,
      };
      expect(await refusalOf(house.record('preparation.make', { ...body, boiledOffGrams: 504 }, by()))).toBe(
        'lot.overdrawn',
      );
      expect((await house.record('preparation.make', body, by())).facts).toEqual(
        jasmine.objectContaining({ grams: 424 }),
      );
      expect((await make(batchId)).lines[0]).toEqual(jasmine.objectContaining({ state: 'weighed', inGrams: 4 }));
      const { starters } = startersReply.parse((await client.get('/api/starters')).body);
      expect(starters.find((row) => row.lotId === lotId))
        .withContext('another batch can use it')
        .toEqual(jasmine.objectContaining({ kind: 'made', onHandGrams: 424, refusal: null }));
    });
  });

  describe('W5: heavy salt and rinse at the bench', () => {
    it('turned, rinsed, drained and weighed: estimate with its band, and a measured value in its place', async () => {
      const batchId = await start(heavy, 1000);
      const put = <K extends 'produce.weigh' | 'salt.weigh' | 'leaf.turn' | 'leaf.rinse'>(
        kind: K,
        body: BodyOf<K>,
        minute: number,
      ) => house.record(kind, body, { at: at(minute), ...by() });
      await put('produce.weigh', { batchId, supplyLotId: lots.leaf, trimmedGrams: 1000, trimWasteGrams: 0 }, 1);
      expect(await refusalOf(put('leaf.turn', { batchId }, 2))).toBe('salt.nothingToSalt');
      await put('salt.weigh', { batchId, saltLotId: lots.salt, grams: 100, alreadyIn: false }, 2);
      await put('leaf.turn', { batchId }, 32);
      for (const minute of [92, 97, 102])
        await put(
          'leaf.rinse',
          { batchId, waterGrams: 2000, tasted: minute === 102 ? 'between' : null, measured: null },
          minute,
        );
      const rinsed = (await make(batchId)).leaf!;
      expect([rinsed.minutes, rinsed.rinses, (rinsed.estimate * 100).toFixed(2), rinsed.measured]).toEqual([
        90,
        3,
        '2.72',
        false,
      ]);
      expect(rinsed.least).toBeLessThan(rinsed.estimate);
      await put(
        'leaf.rinse',
        { batchId, waterGrams: 2000, tasted: null, measured: { waterPhaseSalt: 0.031, how: 'meter' } },
        110,
      );
      expect((await make(batchId)).leaf!).toEqual(jasmine.objectContaining({ leafSalt: 0.031, measured: true }));
      const drain = (drainedGrams: number) =>
        house.record(
          'leaf.drain',
          { batchId, drainedGrams, measured: null, tasted: null, reason: null },
          { at: at(120), ...by() },
        );
      expect(await refusalOf(drain(300))).toBe('leaf.lossOutsideRange');
      expect((await drain(810)).facts).toEqual(
        jasmine.objectContaining({ rinsedGrams: 290, leafSalt: 0.031, how: 'meter' }),
      );
      const done = await make(batchId);
      expect([done.inBowlsGrams, done.steps.find((step) => step.key === 'rinse')!.state]).toEqual([810, 'open']);
      expect((done.salt.waterPhaseSalt * 100).toFixed(2)).toBe('3.10');
      expect(await refusalOf(drain(810))).toBe('making.stepDone');
    });
  });

  describe('closing a vessel', () => {
    it('closure, headspace and weights in are kept, and it moves from room to room', async () => {
      const { batchId, fillId } = await dryBatch(house, { tag: 'G1', produceGrams: 3500, saltGrams: 77 });
      const room = ids.next();
      await house.record('room.add', { roomId: room, name: 'Net loft', usualCelsius: 20, position: 1 });
      await house.record(
        'vessel.close',
        {
          lotId: fillId,
          closure: 'airlock',
          headspaceMm: 60,
          weightItems: [{ what: 'glass weight', count: 2, grams: 700 }],
          tray: true,
        },
        by(),
      );
      await house.record('label.print', { lotIds: [fillId], copies: 2, printer: null }, by());
      await house.record('vessel.move', { lotId: fillId, roomId: room }, by());
      expect((await make(batchId)).fills[0]).toEqual(
        jasmine.objectContaining({ closure: 'airlock', labels: 2, room: 'Net loft' }),
      );
      expect(await refusalOf(house.record('vessel.move', { lotId: fillId, roomId: room }, by()))).toBe(
        'correction.nothingChanged',
      );
    });
  });
});
