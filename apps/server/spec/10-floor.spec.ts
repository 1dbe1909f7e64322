import {
  floorReply,
  type FloorReply,
  judgeReply,
  metersReply,
  ruleHistoryReply,
  type WatchReply,
  watchReply,
} from '@clear-tally/contract';
import { eq, isNull, sql } from 'drizzle-orm';
import { hold } from '../src/db/schema/ledger.js';
import { checkMark } from '../src/db/schema/watching.js';
import { replay } from '../src/journal/verify/replay.js';
import { applyRules } from '../src/subjects/holds/applyRules.js';
import { Client } from './client.js';
import { emptyDatabase } from './databases.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, readWell } from './oneBatch.js';

const HOUR = 3_600_000;

describe('the floor', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  let meterId: string;
  const hoursAgo = (hours: number): Date => new Date(Date.now() - hours * HOUR);
  const read = (lotId: string, ph: number, at: Date) => readWell(house, lotId, ph, at);
  const warm = async (lotId: string, from: number, celsius: number): Promise<void> => {
    for (let hours = from; hours > 0; hours -= 30)
      await house.record('temperature.read', { lotId, celsius }, { at: hoursAgo(hours), by: house.maker });
  };
  const watch = async (lotId: string): Promise<WatchReply> => {
    const lots = (await maker.get<{ lots: { lotId: string; code: string }[] }>('/api/lots?kind=fill')).body.lots;
    return watchReply.parse((await maker.get(`/api/watch/${lots.find((lot) => lot.lotId === lotId)!.code}`)).body);
  };
  const calibrate = (at: Date, read: number) =>
    house.record(
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
        check: { buffer: 4.01, read },
      },
      { at, by: house.maker },
    );

  beforeAll(async () => {
    house = await openHouse('clear_tally_floor');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    await house.record('house.rule', { rule: 'film', option: 'skim', reason: 'Two readings two days apart.' });
    meterId = ids.next();
    await house.record('meter.add', { meterId, tag: 'M2', name: 'Bench meter', kind: 'meter' });
  });
  afterAll(() => house.close());

  it('a meter counts for release from its calibration until a day later, unless its buffer is off', async () => {
    expect(
      (await maker.record('meter.add', { meterId: ids.next(), tag: 'M9', name: 'Another', kind: 'meter' })).body.code,
    ).toBe('who.notAllowed');
    expect((await calibrate(hoursAgo(30), 4.02)).facts).toEqual(jasmine.objectContaining({ fit: true }));
    expect(metersReply.parse((await maker.get('/api/meters')).body).meters[0]!.reasons[0]).toContain('30 h ago');
    expect((await calibrate(hoursAgo(2), 4.12)).facts['fit']).toBeFalse();
    await calibrate(hoursAgo(1), 4.02);
    const [meter] = metersReply.parse((await maker.get('/api/meters')).body).meters;
    expect(meter!.fit).toBeTrue();
    expect(meter!.calibrations.length).toBe(3);
    const swapped = await maker.record('meter.calibrate', {
      meterId,
      celsius: 20,
      by: {
        how: 'buffers',
        buffers: [
          { ph: 7, millivolts: 172 },
          { ph: 4.01, millivolts: 2 },
        ],
      },
      check: null,
    });
    expect(swapped.body.detail).toContain('swapped');
  });

  describe('W14: a late vessel', () => {
    let fillId: string;
    beforeAll(async () => {
      fillId = (await dryBatch(house, { tag: 'C1', at: hoursAgo(170) })).fillId;
      await warm(fillId, 169, 17);
      await read(fillId, 5.9, hoursAgo(149));
      await read(fillId, 4.83, hoursAgo(52));
    });
    it('goes on hold by itself, signed by the rules, and once only', async () => {
      expect(await applyRules(house.connection.db, hoursAgo(51))).toBe(0);
      expect(await applyRules(house.connection.db, hoursAgo(49))).toBe(1);
      expect(await applyRules(house.connection.db, new Date())).toBe(0);
      const seen = await watch(fillId);
      expect(seen.lateness.state).toBe('late');
      expect(seen.holds[0]!.reason).toContain('4.6 within 5 days at a mean of');
      expect(seen.conditions.filter(({ state }) => state === 'hold').length).toBe(2);
      expect(seen.mayTaste).toContain('on hold');
    });
    it('two looks at once place one hold', async () => {
      const { fillId: other } = await dryBatch(house, { tag: 'C2', at: hoursAgo(24 * 11) });
      const placed = await Promise.all([1, 2, 3].map(() => applyRules(house.connection.db, new Date())));
      expect(placed.reduce((sum, one) => sum + one, 0)).toBe(1);
      expect((await watch(other)).holds.length).toBe(1);
      await house.record('vessel.throwOut', { lotId: other, cause: 'made for this test', note: null });
    });
    it('nobody signed in writes such a hold', async () =>
      expect((await owner.record('hold.byRule', { lotId: fillId, rule: 'late', reason: 'x' })).body.code).toBe(
        'who.notAllowed',
      ));
    it('a maker cannot end it, a reviewer only on two blended readings at 4.2 with a fit meter', async () => {
      expect((await maker.record('hold.lift', { lotId: fillId, reason: 'it will do' })).body.code).toBe(
        'who.notAllowed',
      );
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'it will do' })).body.code).toBe(
        'hold.readingsMissing',
      );
      await house.record(
        'ph.read',
        { lotId: fillId, ph: 4.19, sample: 'blended', confirmedJump: true },
        { at: hoursAgo(40), by: house.maker },
      );
      await readWell(house, fillId, 4.16, hoursAgo(39), { sample: 'brine' });
      await read(fillId, 4.18, hoursAgo(38));
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'two readings' })).body.detail).toContain(
        'Since the hold: 4.18',
      );
      await read(fillId, 4.17, hoursAgo(20));
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'two readings' })).body.code)
        .withContext('18 h apart are no pair')
        .toBe('hold.readingsMissing');
      await read(fillId, 4.15, hoursAgo(10));
      expect(
        (await owner.record('hold.lift', { lotId: fillId, reason: 'two blended readings, salt was heavy' })).status,
      ).toBe(200);
      expect(await applyRules(house.connection.db, new Date())).toBe(0);
      expect((await watch(fillId)).pastHolds[0]!.liftReason).toContain('salt was heavy');
    });
    it('at twice the deadline still above: throw out, and no reading lifts it', async () => {
      const { fillId: lost } = await dryBatch(house, { tag: 'C2', at: hoursAgo(24 * 10 + 2) });
      await warm(lost, 241, 17.9);
      await read(lost, 4.7, hoursAgo(1));
      await applyRules(house.connection.db, new Date());
      const seen = await watch(lost);
      expect(seen.holds.map(({ rule }) => rule)).toEqual(['throwOut']);
      expect(seen.holds.every(({ mayLift }) => mayLift !== null))
        .withContext('“Throw out” and “Lift” never stand together')
        .toBeTrue();
      expect((await owner.record('hold.lift', { lotId: lost, reason: 'please' })).body.code).toBe('hold.throwOut');
      const gone = await maker.record('vessel.throwOut', {
        lotId: lost,
        cause: 'above the limit on day 10',
        note: null,
      });
      expect(gone.body.recorded[0]!.facts['words']).toBe('14.92 kg');
      expect((await watch(lost)).closed).toBeTrue();
    });
  });

  it('the limit is the owner’s, never above 4.6, and keeps its history', async () => {
    expect((await maker.record('house.rule', { rule: 'acidLimit', option: '4.0', reason: null })).body.code).toBe(
      'who.notAllowed',
    );
    expect((await owner.record('house.rule', { rule: 'acidLimit', option: '4.8', reason: 'x' })).status).toBe(422);
    expect((await owner.record('house.set', { acidByHours: { above15: 130 } })).status)
      .withContext('deadlines are shortened only')
      .toBe(400);
    await owner.record('house.rule', { rule: 'acidLimit', option: '4.0', reason: null });
    await owner.record('house.rule', { rule: 'acidLimit', option: '4.2', reason: null });
    expect(
      ruleHistoryReply
        .parse((await maker.get('/api/house-rules/acidLimit/history')).body)
        .answers.map(({ words }) => words),
    ).toEqual(['4.2 or lower', '4.0 or lower']);
  });

  it('W20: a crock from before the ledger is packed only after two blended readings that fit', async () => {
    const fillLotId = ids.next();
    await house.record(
      'lot.open',
      {
        what: 'vessel',
        batchId: ids.next(),
        fillLotId,
        name: 'Old roots',
        vesselId: house.vessel('D1'),
        grams: 9000,
        filledOn: null,
      },
      { at: hoursAgo(40) },
    );
    await house.record('ph.read', { lotId: fillLotId, ph: 3.7, sample: 'brine', meterId }, { by: house.maker });
    const pack = () =>
      maker.record('pack.run', {
        runLotId: ids.next(),
        from: [{ fillLotId, grams: 3200, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
      });
    expect((await pack()).body.code).toBe('pack.twoReadings');
    await read(fillLotId, 3.74, hoursAgo(27));
    expect((await pack()).body.code).toBe('pack.twoReadings');
    await read(fillLotId, 3.72, hoursAgo(1));
    expect((await pack()).status).toBe(200);
  });

  describe('a round', () => {
    let fillId: string;
    let code: string;
    const plan = [
      {
        what: 'ph' as const,
        words: null,
        rule: { kind: 'onDays' as const, days: [1, 2, 3], thenEveryDays: 2 },
        condition: 'always' as const,
      },
      {
        what: 'look' as const,
        words: null,
        rule: { kind: 'every' as const, hours: 24, forDays: null },
        condition: 'always' as const,
      },
      {
        what: 'own' as const,
        words: 'rim wiped',
        rule: { kind: 'every' as const, hours: 48, forDays: null },
        condition: 'always' as const,
      },
    ];
    const floorVessel = async () =>
      floorReply.parse((await maker.get('/api/floor')).body).vessels.find((vessel) => vessel.lotId === fillId)!;
    const open = async () =>
      (await floorVessel()).checks
        .filter(({ state }) => state === 'due' || state === 'late')
        .map(({ key }) => key)
        .sort();

    beforeAll(async () => {
      const batch = await dryBatch(house, { tag: 'D2', at: hoursAgo(72), produceGrams: 9000, saltGrams: 198 });
      fillId = batch.fillId;
      await house.record(
        'plan.change',
        { lotId: batch.batchId, checks: plan, reason: 'watched closely' },
        { at: hoursAgo(71) },
      );
      await read(fillId, 5.4, hoursAgo(50));
      await read(fillId, 4.4, hoursAgo(30));
      ({ code } = await floorVessel());
    });

    it('lists what is due on a vessel, by the plan of its batch', async () =>
      expect(await open()).toEqual(['look', 'own:rim wiped', 'ph']));
    it('“all quiet” answers what a look answers, for many vessels at once; a pH wants its figure', async () => {
      const refused = await maker.record('round.quiet', {
        lots: [{ lotId: fillId, checks: [{ what: 'ph', words: null }] }],
      });
      expect(refused.body.code).toBe('check.notQuiet');
      const done = await maker.record('round.quiet', {
        lots: [
          {
            lotId: fillId,
            checks: [
              { what: 'look', words: null },
              { what: 'own', words: 'rim wiped' },
            ],
          },
        ],
      });
      expect(done.body.recorded[0]!.facts).toEqual({ vessels: 1, checks: 2 });
      expect(await open()).toEqual(['ph']);
    });
    it('two people who make the same check are both kept', async () => {
      const before = (await house.connection.db.select().from(checkMark).where(eq(checkMark.lotId, fillId))).length;
      for (const by of [maker, owner])
        await by.record('check.make', { lotId: fillId, what: 'look', words: null, quiet: true });
      expect((await house.connection.db.select().from(checkMark).where(eq(checkMark.lotId, fillId))).length).toBe(
        before + 2,
      );
    });
    it('a pH off the trend is asked about, named with what was expected, and kept when it stays so', async () => {
      const asked = await maker.record('ph.read', { lotId: fillId, ph: 5.6, sample: 'blended', meterId });
      expect(asked.body.code).toBe('ph.jump');
      expect(asked.body.facts).toEqual(jasmine.objectContaining({ last: 4.4, most: 4.8 }));
      await maker.record('ph.read', { lotId: fillId, ph: 5.6, sample: 'blended', meterId, confirmedJump: true });
      const after = await floorVessel();
      expect(after.checks.find(({ key }) => key === 'ph')!.why).toContain('read again now');
      expect([after.trend.ph, after.trend.counts!.ph])
        .withContext('it stands as high until its repeat decides')
        .toEqual([5.6, 4.4]);
      expect(after.holds.map(({ rule }) => rule)).toEqual(['rising']);
      await maker.record('ph.read', { lotId: fillId, ph: 4.2, sample: 'blended', meterId });
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'the probe was dry; read again' })).status).toBe(
        200,
      );
      expect(await open()).toEqual([]);
    });
    it('nobody tastes above 4.6', async () => {
      const { fillId: young } = await dryBatch(house, {
        tag: 'G1',
        at: hoursAgo(30),
        produceGrams: 3000,
        saltGrams: 66,
      });
      const taste = {
        lotId: young,
        marks: { salt: 2, sour: 1, fizz: null, crunch: null, heat: null },
        offNotes: null,
        colourThrough: null,
        says: 'wait' as const,
        grams: 20,
        note: null,
      };
      expect((await maker.record('taste.record', taste)).body.code).toBe('taste.notYet');
      await read(young, 4.7, hoursAgo(3));
      expect((await maker.record('taste.record', taste)).body.detail).toContain('4.6');
      await read(young, 4.55, hoursAgo(1));
      expect((await maker.record('taste.record', taste)).status).toBe(200);
    });
    it('a clock that runs ahead, and a time before the filling, are refused', async () => {
      expect(
        (
          await maker.record(
            'check.make',
            { lotId: fillId, what: 'look', words: null, quiet: true },
            new Date(Date.now() + HOUR),
          )
        ).body.code,
      ).toBe('time.future');
      expect(
        (await maker.record('check.make', { lotId: fillId, what: 'look', words: null, quiet: true }, daysAgo(9))).body
          .code,
      ).toBe('lot.notYet');
    });
    it('the book tells it in words', async () => {
      const { lines } = (await maker.get<{ lines: { what: string; words: string | null }[] }>(`/api/lots/${code}`))
        .body;
      expect(lines.find(({ what }) => what === 'All quiet')!.words).toBe('look, rim wiped');
      expect(lines.some(({ words }) => words?.includes('off the trend'))).toBeTrue();
    });
    it('a titration gives % lactic acid, “ready” is said by a person', async () => {
      expect(
        (await maker.record('acid.titrate', { lotId: fillId, millilitres: 8.6, normality: 0.1, sampleGrams: 10 })).body
          .recorded[0]!.facts['percent'],
      ).toBe(0.775);
      await maker.record('lot.ready', { lotId: fillId, ready: true, note: null });
      expect((await watch(fillId)).ready).toBeTrue();
    });
    it('the feed needs its private address, and ends when that is taken back', async () => {
      const made = await fetch(`${house.address}/api/calendar`, {
        method: 'POST',
        headers: { cookie: (owner as unknown as { cookie: string }).cookie },
      });
      const { address } = (await made.json()) as { address: string };
      const feed = await (await fetch(address)).text();
      expect(feed).toContain('BEGIN:VCALENDAR');
      expect(feed).toContain('SUMMARY:C1: ready window of Dry shred');
      await fetch(`${house.address}/api/calendar`, {
        method: 'DELETE',
        headers: { cookie: (owner as unknown as { cookie: string }).cookie },
      });
      expect((await fetch(address)).status).toBe(404);
    });
    it('the round is printed for a dead tablet', async () =>
      expect((await maker.text('/api/round.pdf')).slice(0, 5)).toBe('%PDF-'));
    it('W8: what ran over is topped up in its strength, and plain water would thin it', async () => {
      const taps = ids.next();
      await house.record('supply.receive', {
        lotId: taps,
        materialId: house.names.tap,
        supplierId: house.names.supplier,
        supplierLotCode: 'tap',
        grams: 5000,
        useBy: null,
        condition: null,
      });
      const { fillId: big, saltLot } = await dryBatch(house, {
        tag: 'C2',
        at: hoursAgo(20),
        produceGrams: 25_000,
        saltGrams: 550,
      });
      const topped = await maker.record('vessel.topUp', {
        lotId: big,
        how: 'overflow',
        lostGrams: 900,
        saltLotId: saltLot,
        saltGrams: 21,
        waterLotId: taps,
        waterGrams: 879,
      });
      expect(topped.status).withContext(topped.body.detail).toBe(200);
      const { before, after } = topped.body.recorded[0]!.facts as { before: number; after: number };
      expect(before * 100).toBeCloseTo(2.34, 2);
      expect(after * 100).toBeCloseTo(2.34, 2);
    });
  });

  describe('W25: findings', () => {
    let fillId: string;
    const find = (finding: string, place: string, verdict: string, more: object = {}) =>
      ({ lotId: fillId, finding, place, verdict, reason: null, note: null, photo: null, ...more }) as never;
    const guide = async (finding: string, place: string) =>
      judgeReply.parse((await maker.get(`/api/judge?lotId=${fillId}&finding=${finding}&place=${place}`)).body).verdict;
    let code: string;
    beforeAll(async () => {
      const free = (await maker.get<FloorReply>('/api/floor')).body.vessels.map(({ vesselTag }) => vesselTag);
      expect(free).not.toContain('X9');
      await house.record('vessel.add', {
        vesselId: ids.next(),
        tag: 'X9',
        shape: 'crock',
        brimMl: 30_000,
        maxFill: 0.88,
        minFill: 0.5,
        weightVolumeMl: 0,
        closure: 'loose',
        roomId: house.names.room,
        inUse: true,
      });
      const { vessels } = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body;
      const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(20), fill: false });
      fillId = ids.next();
      await house.record(
        'vessel.fill',
        {
          fillLotId: fillId,
          batchId: batch.batchId,
          vesselId: vessels.find(({ tag }) => tag === 'X9')!.id,
          grams: 14_900,
          brine: null,
        },
        { at: daysAgo(20), by: house.maker },
      );
      await read(fillId, 4.3, daysAgo(15));
      await read(fillId, 3.7, daysAgo(9));
      await read(fillId, 3.7, hoursAgo(30));
      await read(fillId, 3.7, hoursAgo(4));
      code = (await watch(fillId)).code;
    });
    it('blue-green in garlic is Fine, on the surface thrown out; film with a steady pH is Act', async () => {
      expect([
        await guide('blueGreenIn', 'piece'),
        await guide('blueGreenIn', 'surface'),
        await guide('film', 'surface'),
      ]).toEqual(['fine', 'throwOut', 'act']);
    });
    it('where the house holds every film, so does the guide', async () => {
      await owner.record('house.rule', { rule: 'film', option: 'reject', reason: null });
      expect(await guide('film', 'surface')).toBe('hold');
      await owner.record('house.rule', { rule: 'film', option: 'skim', reason: 'Two readings two days apart.' });
      expect(await guide('film', 'surface')).toBe('act');
    });
    it('the verdict is kept on the lot with its reasons; nobody but a reviewer makes it milder', async () => {
      expect((await maker.record('find.record', find('film', 'surface', 'watch'))).body.code).toBe('finding.laxer');
      expect((await maker.record('find.record', find('film', 'surface', 'act', { note: '38 g skimmed' }))).status).toBe(
        200,
      );
      const [seen] = (await watch(fillId)).findings;
      expect([seen!.name, seen!.verdict, seen!.reasons.length > 0]).toEqual([
        'White film: flat, thin, dull, wrinkled',
        'act',
        true,
      ]);
      expect((await watch(fillId)).holds).toEqual([]);
    });
    it('pink without a red ingredient holds at once, and stays held', async () => {
      await maker.record('find.record', find('pinkTop', 'piece', 'hold'));
      expect((await watch(fillId)).holds.map(({ rule }) => rule)).toEqual(['finding']);
      expect((await maker.record('find.record', find('looksRight', 'surface', 'fine'))).body.code)
        .withContext('a good look never releases')
        .toBe('finding.laxer');
      expect(
        (
          await maker.record('pack.run', {
            runLotId: ids.next(),
            from: [{ fillLotId: fillId, grams: 3200, empties: false }],
            jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
            sampleGrams: 0,
            leftoverGrams: 0,
            wasteGrams: 0,
            tallyReason: null,
          })
        ).body.code,
      ).toBe('lot.onHold');
    });
    it('a second reason keeps it held when the first is lifted', async () => {
      await maker.record('hold.place', { lotId: fillId, reason: 'odd smell' });
      const [first] = (await watch(fillId)).holds;
      expect(
        (await owner.record('hold.lift', { lotId: fillId, holdId: first!.entryId, reason: 'a petal of radish' }))
          .status,
      ).toBe(200);
      expect((await watch(fillId)).holds.map(({ reason }) => reason)).toEqual(['odd smell']);
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'smelt by two' })).status).toBe(200);
    });
    it('a pH that rises by more than 0.2 is held by rule', async () => {
      const reply = await maker.record('ph.read', { lotId: fillId, ph: 3.95, sample: 'blended', meterId });
      expect(reply.status).toBe(200);
      expect((await watch(fillId)).holds.map(({ rule }) => rule)).toEqual(['rising']);
      expect(await guide('film', 'surface')).toBe('hold');
      await maker.record('ph.read', { lotId: fillId, ph: 3.75, sample: 'blended', meterId });
      expect((await owner.record('hold.lift', { lotId: fillId, reason: 'read again, blended well' })).status).toBe(200);
    });
    it('a finding on a vessel that is packed already goes to its run', async () => {
      const { runLotId, code: run } = await packJars(house, fillId, 20, { at: new Date(), empties: true });
      const reply = await maker.record('find.record', find('hissLive', 'jar', 'hold'));
      expect(reply.body.recorded[0]!.facts['movedTo']).toEqual([run]);
      expect(
        (await house.connection.db.select().from(hold).where(isNull(hold.liftedAt))).some(
          ({ lotId }) => lotId === runLotId,
        ),
      ).toBeTrue();
    });
    it('a photo that never arrived, and one of 40 MB, are refused in words', async () => {
      expect(
        (await maker.record('find.record', find('film', 'surface', 'act', { photo: 'a'.repeat(64) }))).body.detail,
      ).toContain('has not arrived');
      expect((await maker.upload('/api/photos', Buffer.alloc(40_000_000, 1))).status).toBe(413);
      expect(((await maker.upload('/api/photos', Buffer.from('GIF89a no photo'))).body as { code: string }).code).toBe(
        'file.unreadable',
      );
    });
    it('the vessel itself shows in its book', async () =>
      expect(
        (await maker.get<{ lines: { what: string }[] }>(`/api/lots/${code}`)).body.lines.some(({ what }) =>
          what.startsWith('Seen: Pink or red'),
        ),
      ).toBeTrue());
  });

  it('a hold on a supply lot reaches everything made of it, and is lifted with it', async () => {
    const { saltLot, fillId } = await dryBatch(house, {
      tag: 'C1',
      at: hoursAgo(5),
      produceGrams: 20_000,
      saltGrams: 440,
    }).catch(async () => {
      await house.record('vessel.throwOut', {
        lotId: (await maker.get<FloorReply>('/api/floor')).body.vessels.find(({ vesselTag }) => vesselTag === 'C1')!
          .lotId,
        cause: 'test',
        note: null,
      });
      return dryBatch(house, { tag: 'C1', at: hoursAgo(1), produceGrams: 20_000, saltGrams: 440 });
    });
    const placed = await maker.record('hold.place', {
      lotId: saltLot,
      reason: 'recalled by its supplier',
      downstream: true,
    });
    expect(placed.body.recorded[0]!.facts['held']).toBe(3);
    expect((await watch(fillId)).holds[0]!).toEqual(jasmine.objectContaining({ rule: 'upstream', further: true }));
    await owner.record('hold.lift', { lotId: saltLot, reason: 'another lot was meant' });
    expect((await watch(fillId)).holds).toEqual([]);
  });

  it('what is filled out of held bowls is held, and freed with them', async () => {
    await house.record('vessel.add', {
      vesselId: ids.next(),
      tag: 'X8',
      shape: 'crock',
      brimMl: 30_000,
      maxFill: 0.88,
      minFill: 0.5,
      weightVolumeMl: 0,
      closure: 'loose',
      roomId: house.names.room,
      inUse: true,
    });
    const x8 = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body.vessels.find(
      ({ tag }) => tag === 'X8',
    )!;
    const { batchId } = await dryBatch(house, { tag: 'X8', at: hoursAgo(2), fill: false });
    await maker.record('hold.place', { lotId: batchId, reason: 'which salt was this?' });
    const fillLotId = ids.next();
    expect(
      (await maker.record('vessel.fill', { fillLotId, batchId, vesselId: x8.id, grams: 14_900, brine: null })).status,
    ).toBe(200);
    expect((await watch(fillLotId)).holds[0]!).toEqual(jasmine.objectContaining({ rule: 'upstream', further: true }));
    await owner.record('hold.lift', { lotId: batchId, reason: 'the right one' });
    expect((await watch(fillLotId)).holds).toEqual([]);
  });

  it('a part split off keeps the days and the readings of its vessel', async () => {
    const { fillId } = await (async () => {
      const floor = (await maker.get<FloorReply>('/api/floor')).body.vessels.find(
        ({ vesselTag }) => vesselTag === 'D2',
      )!;
      return { fillId: floor.lotId };
    })();
    const { vessels } = (
      await maker.get<{ vessels: { id: string; tag: string; takenBy: string | null; inUse: boolean }[] }>('/api/house')
    ).body;
    const free = vessels.find(({ takenBy, inUse, tag }) => takenBy === null && inUse && tag === 'X9')!;
    const part = ids.next();
    await house.record('vessel.add', {
      vesselId: ids.next(),
      tag: 'G9',
      shape: 'glass',
      brimMl: 3000,
      maxFill: 0.9,
      minFill: 0.4,
      weightVolumeMl: 0,
      closure: 'airlock',
      roomId: house.names.room,
      inUse: true,
    });
    const g9 = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body.vessels.find(
      ({ tag }) => tag === 'G9',
    )!;
    expect(free).toBeDefined();
    expect(
      (await maker.record('vessel.split', { fromLotId: fillId, fillLotId: part, vesselId: g9.id, grams: 2000 })).status,
    ).toBe(200);
    const [own, whole] = [await watch(part), await watch(fillId)];
    expect([own.day, own.trend.ph]).toEqual([whole.day, whole.trend.ph]);
  });

  it('the journal replays into the same holds, checks and findings', async () => {
    const other = await emptyDatabase('clear_tally_floor_again');
    await replay(house.connection.db, other.db);
    const sums = sql`select (select count(*) from hold) || ' ' || (select count(*) from hold where lifted_at is null) || ' ' || (select count(*) from check_mark) || ' ' || (select count(*) from finding) || ' ' || (select count(*) from reading where for_release) || ' ' || (select count(*) from calibration) as all`;
    expect((await other.db.execute(sums)).rows).toEqual((await house.connection.db.execute(sums)).rows);
    await other.close();
  });
});
