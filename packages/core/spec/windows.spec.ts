import fc from 'fast-check';
import {
  askedPlan,
  type Doneness,
  doneByWindow,
  donenessMet,
  EMPTY_WINDOW,
  type FormulaWindow,
  readyAt,
  windowConditionWords,
  windowDaysWords,
  windowFault,
  type WindowFacts,
  windowFor,
  windowWhy,
} from '../src/index.js';

const DAY = 86_400_000;
const of = (over: Partial<FormulaWindow>): FormulaWindow => ({ ...EMPTY_WINDOW, ...over });
const FACTS: WindowFacts = { starter: false, celsius: 18, celsiusRead: true, month: 11, variant: null };

const WARM = of({ celsius: { least: 20, most: 26 }, fromDay: 5, toDay: 9 });
const COOL = of({ celsius: { least: 12, most: 19.9 }, fromDay: 12, toDay: 24 });
const STARTED = of({ starter: true, fromDay: 3, toDay: 8 });
const STARTED_COOL = of({ starter: true, celsius: { least: 12, most: 19.9 }, fromDay: 7, toDay: 14 });
const WINTER = of({ months: { from: 11, to: 2 }, fromDay: 20, toDay: 40 });
const SPICED = of({ variant: 'with spice', fromDay: 10, toDay: 20 });
const ALL = [WARM, COOL, STARTED, STARTED_COOL, WINTER, SPICED];

describe('the ready window of a formula that applies', () => {
  // Facts, and which of the six it is: the one with most conditions met, the first written of two alike.
  const TABLE: [Partial<WindowFacts>, FormulaWindow | null][] = [
    [{ celsius: 22, month: 6 }, WARM],
    [{ celsius: 20, month: 6 }, WARM],
    [{ celsius: 26.1, month: 6 }, null],
    [{ celsius: 18, month: 6 }, COOL],
    [{ celsius: 18, month: 6, starter: true }, STARTED_COOL],
    [{ celsius: 22, month: 6, starter: true }, WARM],
    [{ celsius: 30, month: 6, starter: true }, STARTED],
    [{ celsius: 30, month: 11 }, WINTER],
    [{ celsius: 30, month: 2 }, WINTER],
    [{ celsius: 30, month: 3 }, null],
    [{ celsius: 30, month: 10 }, null],
    [{ celsius: 30, month: 6, variant: 'with spice' }, SPICED],
    [{ celsius: 30, month: 6, variant: 'plain' }, null],
  ];
  for (const [facts, expected] of TABLE)
    it(`of ${JSON.stringify(facts)} is ${expected ? windowConditionWords(expected) : 'none'}`, () =>
      expect(windowFor(ALL, { ...FACTS, ...facts })).toBe(expected));

  it('is never one with a condition that is not met, and none has more of them', () => {
    const window = fc.record({
      starter: fc.constantFrom(null, true, false),
      celsius: fc.constantFrom(null, { least: 10, most: 15 }, { least: 15, most: 22 }),
      months: fc.constantFrom(null, { from: 3, to: 5 }, { from: 11, to: 1 }),
      variant: fc.constantFrom(null, 'a', 'b'),
    });
    const facts = fc.record({
      starter: fc.boolean(),
      celsius: fc.integer({ min: 8, max: 25 }),
      month: fc.integer({ min: 1, max: 12 }),
      variant: fc.constantFrom(null, 'a', 'b'),
    });
    // By hand: months of a window written out one by one.
    const MONTHS_OF = { 3: [3, 4, 5], 11: [11, 12, 1] } as Record<number, number[]>;
    fc.assert(
      fc.property(fc.array(window, { maxLength: 6 }), facts, (written, said) => {
        const fits = (one: (typeof written)[number]): boolean =>
          [
            one.starter === null || one.starter === said.starter,
            one.celsius === null || (said.celsius >= one.celsius.least && said.celsius <= one.celsius.most),
            one.months === null || MONTHS_OF[one.months.from]!.includes(said.month),
            one.variant === null || one.variant === said.variant,
          ].every(Boolean);
        const many = (one: (typeof written)[number]): number =>
          Object.values(one).filter((condition) => condition !== null).length;
        const fitting = written.filter(fits).sort((a, b) => many(b) - many(a));
        const found = windowFor(
          written.map((one) => of(one)),
          { ...said, celsiusRead: true },
        );
        expect(found === null).toBe(fitting.length === 0);
        if (found) expect(found).toEqual(jasmine.objectContaining(fitting[0]!));
      }),
    );
  });

  it('says when it applies, what it says and why it is this one', () => {
    const long = of({
      starter: true,
      celsius: { least: 18, most: 22 },
      months: { from: 6, to: 8 },
      variant: 'with spice',
      tasteDay: 5,
      fromDay: 8,
      toDay: 14,
      counterDays: 3,
      bestFromDay: 7,
      bestUntilDay: 30,
    });
    expect(windowConditionWords(long)).toBe('with a starter, 18 to 22 °C, filled June to August, with spice');
    expect(windowDaysWords(long)).toBe(
      'taste from day 5, ready day 8 to 14, 3 days out, then cold, best 7 to 30 days after chilling',
    );
    expect(windowWhy(long, { ...FACTS, celsius: 19.44 })).toContain('18 to 22 °C (mean 19.4 °C)');
    expect(windowWhy(COOL, { ...FACTS, celsiusRead: false })).toBe('12 to 19.9 °C (its room, 18.0 °C)');
    expect(windowDaysWords(of({ fromDay: 8, toDay: 8 }))).toBe('ready on day 8');
    expect(windowDaysWords(of({ toDay: 9 }))).toBe('ready by day 9');
    expect(windowDaysWords(of({ bestUntilDay: 60 }))).toBe('best until 60 days after chilling');
    expect(windowConditionWords(EMPTY_WINDOW)).toBe('always');
  });

  const FAULTS: [Partial<FormulaWindow>, RegExp | null][] = [
    [{}, /says no day/],
    [{ fromDay: 9, toDay: 8 }, /earlier day/],
    [{ tasteDay: 9, toDay: 8 }, /after its last day/],
    [{ bestFromDay: 9, bestUntilDay: 8 }, /earlier one/],
    [{ celsius: { least: 20, most: 12 }, toDay: 8 }, /cooler end/],
    [{ counterDays: 3 }, null],
    [{ fromDay: 8, toDay: 8 }, null],
  ];
  for (const [over, fault] of FAULTS)
    it(`${JSON.stringify(over)} ${fault ? `is refused: ${fault.source}` : 'is kept'}`, () => {
      const said = windowFault(of(over));
      if (fault) expect(said).toMatch(fault);
      else expect(said).toBeNull();
    });
});

describe('when a vessel is ready', () => {
  const FILLED = Date.UTC(2026, 10, 2, 9);
  const at = (windows: readonly FormulaWindow[], over: Partial<Parameters<typeof readyAt>[0]> = {}) =>
    readyAt({ windows, facts: FACTS, done: null, usualDays: 20, filledAt: FILLED, coldSince: null, ...over });
  const day = (ms: number): number => (ms - FILLED) / DAY;

  it('is what the window says that applies, with its reason', () => {
    const ready = at(ALL);
    expect([day(ready.from), day(ready.to), ready.why]).toEqual([12, 24, '12 to 19.9 °C (mean 18.0 °C)']);
  });
  it('is the usual days where none applies, and that is said', () => {
    const ready = at([SPICED]);
    expect([day(ready.from), day(ready.to)]).toEqual([16, 30]);
    expect(ready.why).toContain('none of its formula’s windows fits');
    expect(at([]).why).toBe('by its formula’s usual days');
  });
  it('takes the open end of a window from the usual days, never before its beginning', () => {
    expect(day(at([of({ fromDay: 40 })]).to)).toBe(40);
    expect(day(at([of({ fromDay: 5 })]).to)).toBe(30);
    expect(day(at([of({ toDay: 10 })]).from)).toBe(10);
    expect(day(at([of({ tasteDay: 4 })]).from)).toBe(16);
  });
  it('counts its best days from the cold it came to, or is to come to', () => {
    const cold = of({ counterDays: 3, bestFromDay: 7, bestUntilDay: 30 });
    const out = at([cold]);
    expect([day(out.coldOn!), day(out.best!.from!), day(out.best!.until!), out.best!.chilled]).toEqual([
      3,
      10,
      33,
      false,
    ]);
    const chilled = at([cold], { coldSince: FILLED + 5 * DAY });
    expect([chilled.coldOn, day(chilled.best!.from!), day(chilled.best!.until!), chilled.best!.chilled]).toEqual([
      null,
      12,
      35,
      true,
    ]);
    expect(at([of({ bestFromDay: 7 })]).best).toBeNull();
  });

  const DONE: Doneness = {
    phAtMost: null,
    stableHours: null,
    acidAtLeast: null,
    days: { from: 20, to: 30 },
    colourThrough: false,
    tasteSignOff: false,
    gasQuietDays: null,
  };
  it('its rule asks for the days of the window that applies', () => {
    expect(doneByWindow(DONE, COOL)!.days).toEqual({ from: 12, to: 24 });
    expect(doneByWindow(DONE, of({ toDay: 25 }))!.days).toEqual({ from: 20, to: 25 });
    expect(doneByWindow(DONE, of({ tasteDay: 4 }))!.days).toEqual({ from: 20, to: 30 });
    expect(doneByWindow(DONE, null)).toBe(DONE);
    expect(doneByWindow(null, COOL)).toBeNull();
    const open = doneByWindow({ ...DONE, days: null }, of({ fromDay: 6 }))!;
    const [condition] = donenessMet({
      done: open,
      points: [],
      ageDays: 7,
      acidPercent: null,
      colourThrough: false,
      tasteSignedOff: false,
      quietSince: null,
      now: FILLED + 7 * DAY,
    });
    expect([condition!.words, condition!.met]).toEqual(['day 6 or later', true]);
  });
  it('its round asks for the first tasting and the way to the cold on their days', () => {
    const plan = askedPlan([], {
      closure: 'airlock',
      waterPhaseSalt: 0.03,
      houseAsks: [],
      filmDay: null,
      tasteDay: 5,
      coldDay: 3,
    });
    expect(plan.map(({ what, words, rule }) => [what, words, rule.kind === 'onDays' && rule.days])).toEqual([
      ['taste', null, [5]],
      ['todo', 'To the cold', [3]],
    ]);
  });
});
