import fc from 'fast-check';
import {
  acidByRow,
  acidIsEaten,
  decideLift,
  degreeHours,
  diverging,
  donenessMet,
  dueChecks,
  fitsBetter,
  jumps,
  lateness,
  laterLocalDay,
  momentsOfDay,
  meterFitness,
  millivoltsOf,
  pairAtLimit,
  phOf,
  phTrend,
  slopeAndOffset,
  startOfLocalDay,
  temperatureSays,
  titratableAcidity,
  usualChecks,
  whyNotTaste,
  type Check,
  type CheckMade,
  type PhPoint,
  type WatchedVessel,
} from '../src/index.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const FILLED = Date.parse('2026-11-17T15:40:00Z');
const after = (hours: number): number => FILLED + hours * HOUR;
const vessel = (over: Partial<WatchedVessel> = {}): WatchedVessel => ({
  filledAt: FILLED,
  closure: 'airlock',
  fillFraction: 0.8,
  lastPh: 4.0,
  acidLimit: 4.2,
  onHold: false,
  lively: false,
  crossing: null,
  repeatAsked: false,
  ...over,
});
const check = (what: Check['what'], rule: Check['rule'], over: Partial<Check> = {}): Check => ({
  what,
  words: null,
  rule,
  condition: 'always',
  ...over,
});
const made = (what: CheckMade['what'], hours: number, quiet = true): CheckMade => ({
  what,
  words: null,
  at: after(hours),
  quiet,
});
const due = (
  plan: Check[],
  hours: number,
  over: { vessel?: Partial<WatchedVessel>; made?: CheckMade[]; planSince?: number; planBefore?: Check[] } = {},
) =>
  dueChecks({
    plan,
    vessel: vessel(over.vessel),
    made: over.made ?? [],
    now: after(hours),
    timeZone: 'UTC',
    planSince: over.planSince,
    planBefore: over.planBefore,
  });
const ph = (hours: number, value: number, over: Partial<PhPoint> = {}): PhPoint => ({
  at: after(hours),
  ph: value,
  sample: 'blended',
  fit: true,
  ...over,
});

describe('due checks', () => {
  const days = check('ph', { kind: 'onDays', days: [1, 2, 3, 5, 7], thenEveryDays: 7 });
  it('a day of the plan is the local day, due until it is over', () => {
    expect(due([days], 5)[0]).toEqual(jasmine.objectContaining({ state: 'later', missed: 0 }));
    expect(due([days], 10)[0]).toEqual(
      jasmine.objectContaining({
        state: 'due',
        from: Date.parse('2026-11-18T00:00Z'),
        late: Date.parse('2026-11-19T00:00Z'),
      }),
    );
  });
  it('what is done waits for its next day', () =>
    expect(due([days], 20, { made: [made('ph', 17)] })[0]).toEqual(
      jasmine.objectContaining({ state: 'later', from: Date.parse('2026-11-19T00:00Z') }),
    ));
  it('a missed day stays missed, and only the newest is asked for', () =>
    expect(due([days], 24 * 5 + 1, { made: [made('ph', 17)] })[0]).toEqual(
      jasmine.objectContaining({ state: 'due', missed: 2 }),
    ));
  it('day 4 is late for day 3 of the plan', () =>
    expect(due([days], 24 * 4, { made: [made('ph', 17), made('ph', 40)] })[0]).toEqual(
      jasmine.objectContaining({ state: 'late', missed: 0 }),
    ));
  it('after its days it goes on every so many', () =>
    expect(due([days], 24 * 14, { made: [1, 2, 3, 5, 7].map((day) => made('ph', day * 24)) })[0]).toEqual(
      jasmine.objectContaining({ state: 'due', from: Date.parse('2026-12-01T00:00Z') }),
    ));
  it('the house’s own kind is its own, by its words', () => {
    const own = (words: string) => check('own', { kind: 'every', hours: 24, forDays: null }, { words });
    const found = due([own('rim wiped'), own('lid turned')], 23, {
      made: [{ what: 'own', words: 'rim wiped', at: after(20), quiet: true }],
    });
    expect(found.map(({ name, state }) => `${name} ${state}`)).toEqual(['rim wiped later', 'lid turned due']);
  });

  const every = check('level', { kind: 'every', hours: 24, forDays: null });
  it('done early, the next one moves', () =>
    expect(due([every], 20, { made: [made('level', 18)] })[0]!.due).toBe(after(42)));
  it('is due from a quarter before, late a quarter after', () =>
    expect([17, 18, 29, 30].map((hours) => due([every], hours)[0]!.state)).toEqual(['later', 'due', 'due', 'late']));
  it('an interval with an end is not asked for afterwards', () =>
    expect(
      due([check('level', { kind: 'every', hours: 48, forDays: 14 })], 24 * 15, { made: [made('level', 24 * 14)] }),
    ).toEqual([]));
  it('counts what was left out between two times', () =>
    expect(due([every], 100, { made: [made('level', 24), made('level', 96)] })[0]!.missed).toBe(2));

  const burp = check(
    'burp',
    { kind: 'untilQuiet', hours: 24, forDays: 5, thenHours: 48, quietTimes: 2, thenEveryDays: 7 },
    { condition: 'sealed' },
  );
  const sealed = { closure: 'sealed' };
  it('a sealed vessel is burped daily, then every two days, then weekly once two in a row gave no gas', () => {
    expect(due([burp], 20, { vessel: sealed })[0]!.due).toBe(after(24));
    expect(due([burp], 125, { vessel: sealed, made: [made('burp', 120, false)] })[0]!.due).toBe(after(168));
    expect(
      due([burp], 200, {
        vessel: sealed,
        made: [made('burp', 100, false), made('burp', 150, true), made('burp', 198, true)],
      })[0]!.due,
    ).toBe(after(198 + 168));
    expect(
      due([burp], 200, { vessel: sealed, made: [made('burp', 150, false), made('burp', 198, true)] })[0]!.due,
    ).toBe(after(198 + 48));
  });
  it('above 22 °C, or with fruit, twice as often in the first days', () =>
    expect(due([burp], 8, { vessel: { ...sealed, lively: true } })[0]!.due).toBe(after(12)));
  it('what has no airlock is asked for none; what is not sealed is not burped', () =>
    expect(
      due([burp, check('airlock', { kind: 'every', hours: 72, forDays: null })], 80, { vessel: { closure: 'loose' } }),
    ).toEqual([]));
  it('daily while the pH is above the limit', () => {
    const daily = check('ph', { kind: 'every', hours: 24, forDays: null }, { condition: 'aboveLimit' });
    expect(due([daily], 24, { vessel: { lastPh: 4.3 } }).length).toBe(1);
    expect(due([daily], 24, { vessel: { lastPh: null } }).length).toBe(1);
    expect(due([daily], 24, { vessel: { lastPh: 4.2 } }).length).toBe(0);
  });
  it('every 6 h on day 1 when filled above 0.88', () => {
    const full = check('level', { kind: 'every', hours: 6, forDays: 1 }, { condition: 'full' });
    expect(due([full], 6, { vessel: { fillFraction: 0.89 } })[0]!.state).toBe('due');
    expect(due([full], 6, { vessel: { fillFraction: 0.88 } })).toEqual([]);
  });
  it('while it usually crosses the limit; until it has, where too little is known', () => {
    const around = check('ph', { kind: 'aroundCrossing', hours: 12 });
    expect(due([around], 30, { vessel: { lastPh: 5, crossing: { fromHours: 60, toHours: 100 } } })[0]).toEqual(
      jasmine.objectContaining({ state: 'later', due: after(60) }),
    );
    expect(due([around], 30, { vessel: { lastPh: 5 } })[0]!.state).toBe('late');
    expect(due([around], 30, { vessel: { lastPh: 4.1 } })).toEqual([]);
  });

  it('nobody tastes above 4.6, unread, or on hold', () => {
    const taste = check('taste', { kind: 'onDays', days: [3], thenEveryDays: null });
    expect(
      [{ lastPh: 4.7 }, { lastPh: null }, { lastPh: 3.6, onHold: true }].map(
        (over) => due([taste], 73, { vessel: over })[0]!.state,
      ),
    ).toEqual(['waits', 'waits', 'waits']);
    expect(due([taste], 73, { vessel: { lastPh: 4.6 } })[0]!.state).toBe('due');
    expect(whyNotTaste({ lastPh: 4.61, onHold: false })).toContain('4.6');
  });
  it('a reading off the trend asks for its repeat at once', () =>
    expect(due([days], 20, { made: [made('ph', 19)], vessel: { repeatAsked: true } })[0]).toEqual(
      jasmine.objectContaining({ state: 'due', due: after(20) }),
    ));
  it('a plan changed on the way counts from then, and what was done stays done', () => {
    const found = due([check('look', { kind: 'onDays', days: [1, 2, 3, 4, 5, 6], thenEveryDays: null })], 24 * 5, {
      planSince: after(24 * 4),
      made: [made('look', 24 * 4 + 12)],
    });
    expect(found[0]!.missed).toBe(0);
    expect(due([every], 24 * 5, { planSince: after(24 * 4.9) })[0]!.missed).toBe(0);
    // Asked for since an hour ago, it is not late from the filling on; one that was made goes on from its last time.
    const changed = { planSince: after(24 * 25) };
    expect(due([every], 24 * 25 + 1, { ...changed, planBefore: [] })[0]!.state).toBe('later');
    // Asked for before, or nobody knows: a change of the plan makes nothing of it milder.
    expect(due([every], 24 * 25 + 1, { ...changed, planBefore: [every] })[0]!.state).toBe('late');
    expect(due([every], 24 * 25 + 1, changed)[0]!.state).toBe('late');
    expect(due([every], 24 * 25 + 1)[0]!.state).toBe('late');
    const before = [made(every.what, 24 * 20)];
    expect(due([every], 24 * 25 + 1, { ...changed, planBefore: [], made: before })[0]!.state).toBe('late');
  });
  it('the usual plan asks only what its vessel has', () => {
    expect(due(usualChecks(7), 30, { vessel: { closure: 'loose' } }).map(({ what }) => what)).toEqual([
      'ph',
      'temperature',
      'level',
      'press',
      'taste',
    ]);
    expect(due(usualChecks(7), 30, { vessel: { closure: 'sealed' } }).map(({ what }) => what)).toContain('burp');
  });
  it('whatever was made when: nothing is late that was made just now, and no count is negative', () => {
    const rule = fc.oneof(
      fc.record({
        kind: fc.constant('every' as const),
        hours: fc.integer({ min: 1, max: 200 }),
        forDays: fc.constant(null),
      }),
      fc.record({
        kind: fc.constant('onDays' as const),
        days: fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 }),
        thenEveryDays: fc.option(fc.integer({ min: 1, max: 20 })),
      }),
    );
    fc.assert(
      fc.property(
        rule,
        fc.array(fc.integer({ min: 0, max: 900 }), { maxLength: 12 }),
        fc.integer({ min: 1, max: 900 }),
        (one, hours, now) => {
          const [found] = due([check('look', one as Check['rule'])], now, {
            made: [...hours.filter((hour) => hour < now), now].map((hour) => made('look', hour)),
          });
          return (
            !found ||
            (found.state !== 'late' && found.missed >= 0 && found.from < found.late && found.due <= found.late)
          );
        },
      ),
    );
  });
});

describe('W24: the day number and the hours', () => {
  it('a local day begins at its midnight, also when the clock changes', () => {
    expect(startOfLocalDay(Date.parse('2026-11-24T08:00Z'), 'UTC')).toBe(Date.parse('2026-11-24T00:00Z'));
    expect(startOfLocalDay(Date.parse('2026-10-25T12:00Z'), 'Europe/Dublin')).toBe(Date.parse('2026-10-24T23:00Z'));
    expect(laterLocalDay(Date.parse('2026-10-24T12:00Z'), 2, 'Europe/Dublin')).toBe(Date.parse('2026-10-26T00:00Z'));
    // Santiago's 6 September and Havana's 8 March have no midnight: they begin at one. Havana's 1 November has two.
    for (const [day, zone, begins] of [
      ['2026-09-06', 'America/Santiago', '2026-09-06T04:00Z'],
      ['2026-03-08', 'America/Havana', '2026-03-08T05:00Z'],
      ['2026-11-01', 'America/Havana', '2026-11-01T04:00Z'],
      ['2026-09-07', 'America/Santiago', '2026-09-07T03:00Z'],
    ] as const)
      expect(momentsOfDay(day, zone).from).withContext(`${day} ${zone}`).toBe(Date.parse(begins));
    expect(laterLocalDay(Date.parse('2026-03-28T12:00Z'), 2, 'Europe/Dublin')).toBe(Date.parse('2026-03-29T23:00Z'));
  });
});

describe('a meter', () => {
  const good = {
    at: FILLED,
    buffers: [7, 4.01],
    slopePercent: 98,
    offsetMillivolts: 3,
    check: { buffer: 4.01, read: 4.03 },
  };
  const fitness = (over: Partial<typeof good> | { check: null }, hours = 2) =>
    meterFitness({ kind: 'meter', calibration: { ...good, ...over }, at: after(hours) });
  it('is fit for release on the day it was calibrated, within slope and check', () =>
    expect(fitness({}).fit).toBeTrue());
  it('is not after 24 h, with a tired electrode, a buffer off by more than 0.05, or none read again', () => {
    expect(fitness({}, 25).reasons[0]).toContain('24 h');
    expect(fitness({ slopePercent: 91.9 }).reasons[0]).toContain('92 to 105');
    expect(fitness({ slopePercent: 105.1 }).fit).toBeFalse();
    expect(fitness({ check: { buffer: 4.01, read: 4.07 } }).reasons[0]).toContain('4.01 read as 4.07');
    expect(fitness({ check: { buffer: 4.01, read: 4.06 } }).fit).toBeTrue();
    expect(fitness({ check: null }).fit).toBeFalse();
    expect(meterFitness({ kind: 'meter', calibration: null, at: FILLED }).reasons).toEqual(['never calibrated']);
  });
  it('strips are never fit', () =>
    expect(meterFitness({ kind: 'strips', calibration: good, at: FILLED }).fit).toBeFalse());
  it('two buffers give slope and offset', () => {
    const found = slopeAndOffset({
      buffers: [
        { ph: 7, millivolts: 2 },
        { ph: 4.01, millivolts: 175.4 },
      ],
      celsius: 25,
    });
    expect(found.slopePercent).toBeCloseTo(98.0, 1);
    expect(found.offsetMillivolts).toBeCloseTo(2, 6);
    expect(() =>
      slopeAndOffset({
        buffers: [
          { ph: 4.01, millivolts: 1 },
          { ph: 4.5, millivolts: 2 },
        ],
        celsius: 25,
      }),
    ).toThrowError(RangeError);
  });
  it('gives back the pH whose millivolts it read, at any temperature', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 9, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.double({ min: 85, max: 108, noNaN: true }),
        fc.double({ min: -30, max: 30, noNaN: true }),
        (value, celsius, slopePercent, offsetMillivolts) => {
          const by = { celsius, slopePercent, offsetMillivolts };
          return Math.abs(phOf({ ...by, millivolts: millivoltsOf({ ...by, ph: value }) }) - value) < 1e-9;
        },
      ),
    ));
  it('8.6 mL of 0.1 N on 10 g are 0.77 % lactic acid', () => {
    expect(titratableAcidity({ millilitres: 8.6, normality: 0.1, sampleGrams: 10 })).toBeCloseTo(0.7747, 4);
    expect(() => titratableAcidity({ millilitres: 0, normality: 0.1, sampleGrams: 10 })).toThrowError(RangeError);
  });
});

describe('the trend of a pH', () => {
  it('rises by more than 0.2 over its lowest: the acid is being eaten', () => {
    expect(acidIsEaten(phTrend([ph(100, 3.7), ph(268, 3.95)]))).toBeTrue();
    expect(acidIsEaten(phTrend([ph(100, 3.7), ph(268, 3.9)]))).toBeFalse();
  });
  it('brine is not held against a blended sample', () =>
    expect(phTrend([ph(100, 3.6, { sample: 'brine' }), ph(120, 3.9)]).rise).toBe(0));
  it('a doubtful high reading stands as high until its repeat decides', () =>
    expect(phTrend([ph(100, 3.7), ph(120, 4.4, { doubtful: true })]).rise).toBe(0.7));
  it('3.7 and 3.72 a week apart are steady', () =>
    expect(phTrend([ph(100, 3.7), ph(268, 3.72)]).direction).toBe('steady'));
  it('4.4 after 3.7 is off the trend, 3.5 after 3.7 is not', () => {
    const points = [ph(240, 3.8), ph(264, 3.7)];
    expect(jumps({ points, ph: 4.4, at: after(288), filledAt: FILLED, sample: 'blended' })!.jump).toBeTrue();
    expect(jumps({ points, ph: 3.5, at: after(288), filledAt: FILLED, sample: 'blended' })!.jump).toBeFalse();
    expect(jumps({ points: [], ph: 9, at: after(1), filledAt: FILLED, sample: 'blended' })).toBeNull();
  });
  it('a fast fall in the first days is no jump', () =>
    expect(
      jumps({ points: [ph(20, 6.1)], ph: 4.9, at: after(44), filledAt: FILLED, sample: 'blended' })!.jump,
    ).toBeFalse());
  it('a reading that fits a sister better asks for the right vessel', () =>
    expect(
      fitsBetter({
        ph: 4.4,
        own: 3.7,
        sisters: [
          { code: 'C1', ph: 4.45 },
          { code: 'C3', ph: 3.6 },
        ],
      }),
    ).toEqual(['C1']));
  it('names the odd one of three, both of two', () => {
    expect(
      diverging([
        { code: 'C1', ph: 3.7 },
        { code: 'C2', ph: 3.72 },
        { code: 'C3', ph: 4.1 },
      ]),
    ).toEqual(['C3']);
    expect(
      diverging([
        { code: 'C1', ph: 3.7 },
        { code: 'C2', ph: 4.1 },
      ]),
    ).toContain('C2');
    expect(
      diverging([
        { code: 'C1', ph: 3.7 },
        { code: 'C2', ph: 4.0 },
      ]),
    ).toEqual([]);
  });
  it('a pair is blended, fit, 24 to 72 hours apart, within 0.1, the latest, with nothing higher since', () => {
    const pair = (...points: PhPoint[]): boolean => pairAtLimit({ points, limit: 4.2 }) !== null;
    expect(pair(ph(1, 4.1), ph(30, 4.15))).toBeTrue();
    expect(pair(ph(30, 4.15), ph(1, 4.1))).toBeTrue();
    expect(pair(ph(1, 4.1), ph(24, 4.15))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(25, 4.15))).toBeTrue();
    expect(pair(ph(1, 4.1), ph(73, 4.15))).toBeTrue();
    expect(pair(ph(1, 4.1), ph(73.1, 4.15))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(30, 4.15, { fit: false }))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(30, 4.15, { sample: 'brine' }))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(2, 4.4), ph(30, 4.15))).toBeFalse();
    expect(pair(ph(1, 4.0), ph(30, 4.15))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(30, 4.15), ph(31, 5.5, { doubtful: true }))).toBeFalse();
    expect(pair(ph(1, 4.1), ph(30, 4.15), ph(31, 4.3, { sample: 'brine' }))).toBeFalse();
    expect(pair(ph(1, 4.1, { beforeMixture: true }), ph(30, 4.15))).toBeFalse();
    expect(pair(ph(1, NaN), ph(30, 4.15))).toBeFalse();
  });
  it('two readings of one moment are one, the higher', () =>
    expect(pairAtLimit({ points: [ph(1, 4.1), ph(30, 4.1), ph(30, 4.3)], limit: 4.2 })).toBeNull());
  it('a limit above 4.6, or none, is a fault of the caller', () =>
    expect(
      [4.7, NaN].map((limit) => {
        try {
          return pairAtLimit({ points: [], limit });
        } catch (error) {
          return error instanceof RangeError;
        }
      }),
    ).toEqual([true, true]));
});

describe('W14: acid in time', () => {
  const at = (celsius: number, phs: PhPoint[], now: number, hourly = false) =>
    lateness({
      filledAt: FILLED,
      now: after(now),
      phs,
      celsius: Array.from({ length: hourly ? now : Math.ceil(now / 12) }, (_, i) => ({
        at: after(hourly ? i : i * 12),
        celsius,
      })),
      roomCelsius: 14,
    });
  it('17.9 °C mean, day 5.0, blended 4.83: late', () =>
    expect(at(17.9, [ph(20, 5.9), ph(118, 4.83)], 120).state).toBe('late'));
  it('at 17.0 °C it is the row of five days that decides, and an hour before it is not late', () => {
    expect(at(17, [ph(20, 5.9), ph(118, 4.83)], 119).state).toBe('pending');
    expect(at(17, [ph(20, 5.9), ph(118, 4.83)], 120).state).toBe('late');
  });
  for (const [hourly, who] of [
    [true, 'by a logger'],
    [false, 'by hand every 12 h'],
  ] as const)
    it(`17.9 °C, 116 h ${who}: 1,612 degree-hours, late already`, () => {
      const found = at(17.9, [ph(20, 5.9), ph(115, 4.83)], 116, hourly);
      expect([found.state, found.by]).toEqual(['late', 'degreeHours']);
      expect(found.hours).toBeCloseTo(115.1, 1);
    });
  it('a reading holds for 36 hours at most: what lies beyond adds nothing to the degree-hours', () => {
    const read = (hour: number) => ({ at: after(hour), celsius: 17.9 });
    const hours = (points: number[], until: number) =>
      degreeHours({ points: points.map(read), until: after(until) }) / 13.9;
    expect(hours([0, 12, 24], 48)).toBeCloseTo(48, 9);
    expect(hours([0, 36], 72)).toBeCloseTo(72, 9);
    expect(hours([0], 116)).toBeCloseTo(36, 9);
    expect(hours([0, 50], 60)).toBeCloseTo(46, 9);
  });
  it('exactly 36 hours is no gap, whatever minute it begins at', () => {
    for (const minute of [1688, 1690, 1691, 1733.5]) {
      const from = FILLED + minute * 60_000;
      const found = lateness({
        filledAt: FILLED,
        now: from + 72 * HOUR,
        phs: [],
        celsius: [0, 36, 72].map((hour) => ({ at: from + hour * HOUR, celsius: 26 })),
        roomCelsius: 12,
      });
      expect([found.state, Math.round(found.hours)])
        .withContext(`${minute} min`)
        .toEqual(['late', 72]);
    }
  });
  it('20.0 °C is the row of 15 to 20, 20.1 °C the row of 72 h', () => {
    expect([
      acidByRow(20).hours,
      acidByRow(20.1).hours,
      acidByRow(15).hours,
      acidByRow(15.1).hours,
      acidByRow(10).hours,
      acidByRow(10.1).hours,
    ]).toEqual([120, 72, 240, 120, 504, 240]);
  });
  it('the house shortens, never lengthens', () => {
    expect(acidByRow(18, { above15: 96 }).hours).toBe(96);
    expect(acidByRow(18, { above15: 400 }).hours).toBe(120);
  });
  it('brine alone reaches nothing; blended in time meets it', () => {
    expect(at(17.9, [ph(20, 5.9), ph(60, 4.1, { sample: 'brine' })], 121).state).toBe('late');
    expect(at(17.9, [ph(20, 5.9), ph(100, 4.5)], 121).state).toBe('met');
  });
  it('fruit that starts at or under 4.6 meets it from the start', () =>
    expect(at(21, [ph(1, 3.2)], 200).reachedAt).toBe(FILLED));
  it('day 10, still 4.7: throw out', () =>
    expect(at(17.9, [ph(20, 5.9), ph(118, 4.83), ph(239, 4.7)], 240).state).toBe('throwOut'));
  it('reached late stays reached late', () =>
    expect(at(17.9, [ph(20, 5.9), ph(150, 4.4), ph(170, 4.1)], 250).state).toBe('metLate'));

  it('a mean that only arrives at 15 °C, by sums that floats do not hold exactly, has not passed it', () => {
    // 94 h at 14.2 and 32 h at 17.35: 15.0 °C at hour 126 exactly, under 1,600 degree-hours.
    const read = (hour: number, celsius: number) => ({ at: after(hour), celsius });
    const celsius = [
      ...Array.from({ length: 94 }, (_, hour) => read(hour, 14.2)),
      ...Array.from({ length: 40 }, (_, i) => read(94 + i, 17.35)),
    ];
    const state = (now: number) =>
      lateness({ filledAt: FILLED, now: after(now), phs: [], celsius, roomCelsius: 20 }).state;
    expect([125, 126].map(state)).toEqual(['pending', 'pending']);
    expect(state(126.02)).toBe('late');
  });
  it('20.004 °C is the row above 20', () => expect(acidByRow(20.004).hours).toBe(72));
  it('21 °C for 84 h at 5.4, then cooled to 5 °C: late since hour 72, and stays late', () => {
    const celsius = [
      ...Array.from({ length: 7 }, (_, i) => ({ at: after(i * 12), celsius: 21 })),
      ...Array.from({ length: 20 }, (_, i) => ({ at: after(84 + i * 12), celsius: 5 })),
    ];
    const found = lateness({ filledAt: FILLED, now: after(300), phs: [ph(60, 5.4)], celsius, roomCelsius: 5 });
    expect([found.state, found.hours]).toEqual(['late', 72]);
  });
  it('brine 4.4 at 1 h, then blended 5.4 on days 3, 8 and 29 at 18 °C: late on day 5, Throw out on day 10', () => {
    const phs = [ph(1, 4.4, { sample: 'brine' }), ph(72, 5.4), ph(192, 5.4), ph(696, 5.4)];
    const state = (days: number) =>
      lateness({ filledAt: FILLED, now: after(days * 24), phs, celsius: [], roomCelsius: 18 }).state;
    expect([4.99, 5, 9.99, 10, 29].map(state)).toEqual(['pending', 'late', 'late', 'throwOut', 'throwOut']);
  });
  it('between the limit and 4.6 at twice the deadline it waits; nothing makes it irrevocable', () =>
    expect(at(17.9, [ph(20, 5.9), ph(118, 4.83), ph(239, 4.4)], 260).state).toBe('metLate'));
  it('nobody looked in time: a first reading after the deadline proves nothing of before', () => {
    const found = lateness({
      filledAt: FILLED,
      now: after(14 * 24),
      phs: [ph(14 * 24 - 1, 4.4)],
      celsius: [],
      roomCelsius: 18,
    });
    expect([found.state, found.unread]).toEqual(['metLate', true]);
  });
  it('a reading entered late is judged as of its own time', () =>
    expect(at(17.9, [ph(20, 5.9), ph(121, 4.4)], 200).state).toBe('metLate'));
  it('the mean is weighted by time, the room stands in gaps of over 36 hours', () => {
    const mean = (points: [number, number][]) =>
      lateness({
        filledAt: FILLED,
        now: after(72),
        phs: [],
        celsius: points.map(([h, celsius]) => ({ at: after(h), celsius })),
        roomCelsius: 12,
      }).meanCelsius;
    expect(
      mean([
        [0, 24],
        [6, 18],
      ]),
    ).toBeCloseTo((6 * 24 + 66 * 12) / 72, 9);
    expect(
      mean([
        [0, 24],
        [36, 18],
      ]),
    ).toBeCloseTo((36 * 24 + 36 * 18) / 72, 9);
    expect(mean([[36, 18]])).toBeCloseTo((36 * 12 + 36 * 18) / 72, 9);
  });
  it('a gap of more than 36 hours adds what was known of it to the degree-hours, and no more', () => {
    const read = (hours: number[]) =>
      lateness({
        filledAt: FILLED,
        now: after(119),
        phs: [],
        celsius: hours.map((hour) => ({ at: after(hour), celsius: 19 })),
        roomCelsius: 12,
      });
    // 15 each hour: passed after 106.7 hours that are known.
    expect([read([0, 30, 60, 90]).state, read([0, 30, 60, 90]).by]).toEqual(['late', 'degreeHours']);
    expect(read([0, 50, 86]).state).toBe('pending');
    expect(read([0, 40, 76]).by).toBe('degreeHours');
  });
  it('a house that shortens the cooler row does not leave the warmer one longer', () =>
    expect(acidByRow(25, { above15: 60 }).hours).toBe(60));

  const late = { code: 'C2', rule: 'late' as const, placedAt: after(120), acidLimit: 4.2, throwOut: false };
  const liftCode = (points: PhPoint[], over: object = {}) => {
    const outcome = decideLift({ ...late, points, ...over });
    return outcome.ok ? 'lifted' : outcome.refusal.code;
  };
  it('a reviewer lifts it only after two blended readings at 4.2 or lower a day apart, after the hold, with a fit meter', () => {
    expect(liftCode([ph(100, 4.1), ph(130, 4.1)])).toBe('hold.readingsMissing');
    expect(liftCode([ph(130, 4.2), ph(140, 4.1)])).toBe('hold.readingsMissing');
    expect(liftCode([ph(130, 4.2), ph(154, 4.1)])).toBe('lifted');
    expect(liftCode([ph(130, 4.2), ph(154, 4.1), ph(155, 4.5, { doubtful: true })])).toBe('hold.readingsMissing');
    expect(liftCode([ph(130, 4.3), ph(154, 4.1)])).toBe('hold.readingsMissing');
    expect(liftCode([ph(130, 4.2, { fit: false }), ph(154, 4.1)])).toBe('hold.readingsMissing');
  });
  it('what is to be thrown out is not lifted by any reading', () =>
    expect([
      liftCode([ph(130, 3.9), ph(160, 3.9)], { throwOut: true }),
      liftCode([ph(130, 3.9), ph(160, 3.9)], { rule: 'throwOut' }),
    ]).toEqual(['hold.throwOut', 'hold.throwOut']));
  it('a rising one wants a reading at the limit with nothing higher since; a person’s hold a reason only', () => {
    expect(liftCode([], { rule: 'rising' })).toBe('hold.readingsMissing');
    expect(liftCode([ph(130, 4.1)], { rule: 'rising' })).toBe('lifted');
    expect(liftCode([ph(130, 4.1), ph(131, 4.4, { sample: 'brine' })], { rule: 'rising' })).toBe(
      'hold.readingsMissing',
    );
    expect(liftCode([], { rule: 'person' })).toBe('lifted');
  });
});

describe('temperatures and doneness', () => {
  const band = { least: 11, most: 17 };
  const warm = (celsius: number, hours: number) =>
    temperatureSays({ points: [{ at: FILLED, celsius }], filledAt: FILLED, now: after(hours), band });
  it('over 32 °C for more than half a day: act; outside its band: watch', () => {
    expect(warm(33, 13).verdict).toBe('act');
    expect(warm(33, 12).verdict).toBe('met');
    expect(warm(19, 13).verdict).toBe('watch');
    expect(warm(3.9, 1).verdict).toBe('act');
    expect(warm(14, 30)).toEqual({ verdict: 'met', words: '11 to 17 °C, 100 % of the time' });
    expect(warm(14, 100).verdict).toBe('open');
    expect(temperatureSays({ points: [], filledAt: FILLED, now: after(20), band }).verdict).toBe('open');
  });
  const done = {
    phAtMost: 4.2,
    stableHours: 24,
    acidAtLeast: 0.8,
    days: { from: 21, to: 42 },
    colourThrough: true,
    tasteSignOff: true,
    gasQuietDays: 3,
  };
  it('each part is met or not met', () => {
    const found = donenessMet({
      done,
      points: [ph(480, 3.7), ph(505, 3.72)],
      ageDays: 21,
      acidPercent: 0.79,
      colourThrough: true,
      tasteSignedOff: false,
      quietSince: after(400),
      now: FILLED + 21 * DAY,
    });
    expect(found.map(({ met }) => met)).toEqual([true, true, false, true, true, false, true]);
  });
  it('only the parts that are set are asked for', () =>
    expect(
      donenessMet({
        done: {
          ...done,
          stableHours: null,
          acidAtLeast: null,
          days: null,
          colourThrough: false,
          tasteSignOff: false,
          gasQuietDays: null,
        },
        points: [],
        ageDays: 1,
        acidPercent: null,
        colourThrough: false,
        tasteSignedOff: false,
        quietSince: null,
        now: FILLED,
      }).length,
    ).toBe(1));
});
