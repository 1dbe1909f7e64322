import fc from 'fast-check';
import {
  dayProblem,
  decideMoment,
  dueChecks,
  firstOf,
  laterLocalDay,
  localDaysBetween,
  dayNumber,
  shortened,
  shownText,
  textFault,
  unfit,
  type Check,
  type CheckMade,
  type WatchedVessel,
} from '../src/index.js';

const DAY = 86_400_000;
const now = Date.parse('2026-11-25T12:00:00Z');

describe('moments and days that a book can hold', () => {
  const moments: readonly (readonly [string, string | null])[] = [
    ['0026-11-25T08:00:00Z', 'time.tooEarly'],
    ['0001-01-01T00:00:00Z', 'time.tooEarly'],
    ['1582-10-15T00:00:00Z', 'time.tooEarly'],
    ['1900-01-01T00:00:00Z', 'time.tooEarly'],
    ['1949-12-31T23:59:59Z', 'time.tooEarly'],
    ['1950-01-01T00:00:00Z', null],
    ['2026-11-25T12:04:00Z', null],
    ['2026-11-25T12:06:00Z', 'time.future'],
    ['9999-12-31T00:00:00Z', 'time.future'],
  ];
  for (const [at, code] of moments) {
    it(`${at}: ${code ?? 'accepted'}`, () => {
      const outcome = decideMoment({ happenedAt: Date.parse(at), now });
      expect(outcome.ok ? null : String(outcome.refusal.code)).toBe(code);
    });
  }
  it('what is no moment at all is refused in words', () => {
    for (const happenedAt of [NaN, Infinity, -Infinity, 9e15]) expect(decideMoment({ happenedAt, now }).ok).toBe(false);
  });
  it('“26” typed as a year is told what a year is', () => {
    expect(dayProblem('0026-11-25')).toContain('four figures');
    expect(dayProblem('0026-11-25')).toContain('0026-11-25');
    expect(dayProblem('2026-11-26', '2026-11-25')).toContain('still to come');
    for (const sound of ['', '1950-01-01', '2026-11-25']) expect(dayProblem(sound, '2026-11-25')).toBeNull();
  });
});

describe('text that can be recorded', () => {
  const bad: readonly (readonly [string, string])[] = [
    ['NUL', 'a\u0000b'],
    ['a bell', 'a\u0007'],
    ['C1', 'a\u0085b'],
    ['DEL', '\u007f'],
    ['a lone high surrogate', 'carrot \ud83e'],
    ['a lone low surrogate', '\udd55 carrot'],
    ['a right-to-left override', 'safe\u202etxt'],
    ['a surrogate pair the wrong way round', '\udd55\ud83e'],
  ];
  for (const [name, text] of bad) {
    it(`${name} is refused where it stands, and an old book that holds it can be shown`, () => {
      expect(textFault(text)).not.toBeNull();
      expect(unfit({ body: { note: text } })).toEqual(
        jasmine.objectContaining({ path: 'body.note', code: 'text.unfit' }) as never,
      );
      expect(unfit({ [text]: 1 })).not.toBeNull();
      expect(textFault(shownText(text))).toBeNull();
    });
  }
  it('letters of every script, line breaks, tabs and whole emoji are text', () => {
    for (const text of ['Rødbeder, skåret', '白菜 2 kg', 'حمض', 'a\r\n\tb', '🥕🌶️👩‍🌾', 'e\u0301']) {
      expect(textFault(text)).toBeNull();
      expect(shownText(text)).toBe(text);
    }
  });
  it('cutting never leaves half a character', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), fc.integer({ min: 1, max: 40 }), (text, most) => {
        expect(textFault(shownText(firstOf(text, most)))).toBeNull();
        expect([...firstOf(text, most)].length).toBeLessThanOrEqual(most);
        expect([...shortened(text, most)].length).toBeLessThanOrEqual(most);
      }),
    );
    expect(firstOf('🥕🥕', 1)).toBe('🥕');
    expect(shortened('🥕🥕🥕', 2)).toBe('🥕…');
  });
  it('a figure that is none, or is absurd, is named with its field', () => {
    for (const figure of [NaN, Infinity, 9.3e15, -2e9])
      expect(unfit({ body: { jars: [{ netGrams: figure }] } })).toEqual(
        jasmine.objectContaining({ path: 'body.jars.0.netGrams', code: 'figure.unfit' }) as never,
      );
    for (const figure of [0, -1, 1e-9, 2_000_000]) expect(unfit({ grams: figure })).toBeNull();
  });
  it('what is nested beyond any entry is refused, not walked for ever', () => {
    let deep: unknown = 1;
    for (let depth = 0; depth < 5000; depth += 1) deep = [deep];
    expect(unfit(deep)).not.toBeNull();
  });
});

/** What a plan of days asks, by looking at every day one by one: slow, and plain to see right. */
function dayByDay(
  rule: { days: readonly number[]; thenEveryDays: number | null },
  input: { filledAt: number; now: number; since: number; made: readonly number[]; zone: string },
) {
  const { filledAt, zone } = input;
  const begins = (day: number): number => Math.max(filledAt, laterLocalDay(filledAt, day, zone));
  const last = Math.max(...rule.days);
  const asked: number[] = [];
  for (let day = 0; day <= (input.now - filledAt) / DAY + 200; day += 1)
    if (rule.days.includes(day) || (rule.thenEveryDays && day > last && (day - last) % rule.thenEveryDays === 0))
      asked.push(day);
  const slots = asked.map((day, index) => ({
    from: begins(day),
    end: laterLocalDay(filledAt, day + 1, zone),
    next: index + 1 < asked.length ? begins(asked[index + 1]!) : Infinity,
  }));
  const done = (slot: { from: number; next: number }): boolean =>
    input.made.some((at) => at >= slot.from && at < slot.next);
  const begun = slots.filter(({ from }) => from <= input.now);
  const current = begun.at(-1);
  const open = current && !done(current) ? current : slots[begun.length];
  const over = begun.slice(0, -1).filter((slot) => slot.from >= input.since && !done(slot)).length;
  return open ? { from: open.from, late: open.end, missed: over } : null;
}

describe('due checks of days, by arithmetic', () => {
  const zones = ['UTC', 'Europe/Dublin', 'America/New_York', 'Asia/Kolkata', 'Australia/Lord_Howe', 'Pacific/Auckland'];
  const vessel = (filledAt: number): WatchedVessel => ({
    filledAt,
    closure: 'airlock',
    fillFraction: 0.7,
    lastPh: 5,
    acidLimit: 4.2,
    onHold: false,
    lively: false,
    crossing: null,
    repeatAsked: false,
  });
  it('says the same as a walk from day to day, in every zone, across changed clocks', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: 0, max: 700 * 24 }),
        fc.integer({ min: 0, max: 90 * 24 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 6 }),
        fc.option(fc.integer({ min: 1, max: 20 })),
        fc.array(fc.integer({ min: 0, max: 90 * 24 * 60 }), { maxLength: 12 }),
        fc.option(fc.integer({ min: 0, max: 60 * 24 })),
        (zone, began, hours, days, thenEveryDays, minutes, changed) => {
          const filledAt = Date.parse('2025-01-10T07:30:00Z') + began * 3_600_000;
          const at = filledAt + hours * 3_600_000;
          const made: CheckMade[] = minutes
            .map((minute) => ({ what: 'look' as const, words: null, at: filledAt + minute * 60_000, quiet: true }))
            .filter((one) => one.at <= at);
          const planSince = changed === null ? undefined : filledAt + changed * 3_600_000;
          const rule = { kind: 'onDays' as const, days, thenEveryDays };
          const [found] = dueChecks({
            plan: [{ what: 'look', words: null, rule, condition: 'always' } as Check],
            vessel: vessel(filledAt),
            made,
            now: at,
            timeZone: zone,
            planSince,
          });
          const wanted = dayByDay(rule, {
            filledAt,
            now: at,
            since: Math.max(filledAt, planSince ?? 0),
            made: made.map((one) => one.at),
            zone,
          });
          expect(found ? { from: found.from, late: found.late, missed: found.missed } : null).toEqual(wanted);
          expect(localDaysBetween(filledAt, at, zone)).toBe(dayNumber({ filledAt, at, timeZone: zone }));
        },
      ),
      { numRuns: 400 },
    );
  });
  it('a vessel said to be filled in the year 26 or 1582 costs no more than one filled last week', () => {
    const plan = [
      { what: 'look', words: null, rule: { kind: 'onDays', days: [1], thenEveryDays: 1 }, condition: 'always' },
    ] as Check[];
    for (const filled of [-61_320_000_000_000, Date.UTC(1582, 9, 15), Date.UTC(1950, 0, 1)]) {
      const [found] = dueChecks({ plan, vessel: vessel(filled), made: [], now, timeZone: 'UTC' });
      expect(found!.missed).toBe(Math.floor(now / DAY) - Math.floor(filled / DAY) - 1);
    }
  });
});
