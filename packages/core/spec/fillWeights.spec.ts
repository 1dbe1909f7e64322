import fc from 'fast-check';
import { byAllergens, fillWeights, lotsBySerial, runChecksDue, shelfEvidence, tolerableError } from '../src/index.js';

describe('sampled fill weights', () => {
  // The table of the average-weight rule, read off by hand.
  const table: [net: number, tolerable: number][] = [
    [40, 3.6],
    [80, 4.5],
    [150, 6.75],
    [250, 9],
    [320, 9.6],
    [690, 15],
    [2000, 30],
    [12_000, 150],
    [20_000, 200],
  ];
  for (const [net, tolerable] of table)
    it(`of ${net} g: ${tolerable} g may be short`, () => expect(tolerableError(net)).toBeCloseTo(tolerable, 9));
  const says = (sampled: number[]) => fillWeights({ netGrams: 320, sampled }).says;
  it('on the label’s mean and none short: fine', () => expect(says([318, 322, 320])).toBe('fine'));
  it('a mean below the label is short, however even', () => expect(says([319, 319, 319])).toBe('short'));
  it('one of three short by more than is tolerable is too many', () => expect(says([309, 330, 330])).toBe('short'));
  it('one of forty is light', () => expect(says([309, ...Array.from({ length: 39 }, () => 321)])).toBe('light'));
  it('one short by twice of it is short, of however many', () =>
    expect(says([300, ...Array.from({ length: 59 }, () => 325)])).toBe('short'));
  it('mean, spread and least are those of the sample', () => {
    const found = fillWeights({ netGrams: 320, sampled: [318, 322, 320] });
    expect([found.n, found.mean, found.spread, found.least]).toEqual([3, 320, 2, 318]);
    expect(() => fillWeights({ netGrams: 320, sampled: [] })).toThrowError(RangeError);
  });
  it('more in every jar never makes it worse', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 290, max: 350, noNaN: true }), { minLength: 1, maxLength: 60 }),
        (sampled) => {
          const rank = { fine: 0, light: 1, short: 2 };
          expect(rank[says(sampled.map((one) => one + 5))]).toBeLessThanOrEqual(rank[says(sampled)]);
        },
      ),
    ));
});

describe('closures by lot', () => {
  it('each jar carries one lot, in the order they were opened', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 200 }),
        (counts, jars) => {
          const ranges = lotsBySerial(
            counts.map((count, i) => ({ lotId: `${i}`, count })),
            jars,
          );
          const serials = ranges.flatMap(({ first, last }) =>
            Array.from({ length: last - first + 1 }, (_, i) => first + i),
          );
          const named = Math.min(
            jars,
            counts.reduce((a, b) => a + b, 0),
          );
          expect(serials).toEqual(Array.from({ length: named }, (_, i) => i + 1));
          for (const { lotId, first, last } of ranges)
            expect(last - first + 1).toBeLessThanOrEqual(counts[Number(lotId)]!);
        },
      ),
    ));
  it('what carries nothing is packed first', () =>
    expect(
      byAllergens([
        { name: 'B', allergens: ['mustard'] },
        { name: 'A', allergens: ['mustard', 'celery'] },
        { name: 'C', allergens: [] },
      ]).map(({ name }) => name),
    ).toEqual(['C', 'B', 'A']));
});

describe('retained jars', () => {
  const DAY = 86_400_000;
  const due = (days: number, tasted: number[]) =>
    runChecksDue({
      run: { packedAt: 0, storage: 'cold', mixed: false, tasteAt: [90 * DAY, 180 * DAY] },
      made: [
        { what: 'level', at: DAY, says: 'fine' },
        { what: 'gas', at: 8 * DAY, says: 'quiet' },
        ...tasted.map((day) => ({ what: 'taste' as const, at: day * DAY, says: 'fine' as const })),
      ],
      now: days * DAY,
    })
      .filter(({ state }) => state !== 'later')
      .map(({ what, state }) => `${what} ${state}`);
  const table: [string, string[], string[]][] = [
    ['long before: nothing', due(60, []), []],
    ['around its date', due(92, []), ['taste due']],
    ['a week after it: late', due(98, []), ['taste late']],
    ['tasted: nothing until the next date', due(120, [89]), []],
    ['tasted once, and the next date is there', due(179, [89]), ['taste due']],
    ['the first missed, the second made', due(190, [178]), ['taste late']],
  ];
  for (const [what, found, wanted] of table) it(what, () => expect(found).toEqual(wanted));
});

describe('shelf life, by retained jars', () => {
  const tasting = (run: string, days: number, fine: boolean) => ({ run, packedAt: 0, at: days * 86_400_000 + 5, fine });
  const says = (tastings: ReturnType<typeof tasting>[], labelDays: number | null) => {
    const found = shelfEvidence({ tastings, labelDays });
    return [found.says, found.days, found.run, found.against?.days ?? null];
  };
  const table: [string, unknown[], unknown[]][] = [
    ['nobody tasted one', says([], 180), ['none', null, null, null]],
    [
      'fine to the label’s day',
      says([tasting('A', 90, true), tasting('A', 181, true)], 180),
      ['supported', 181, 'A', null],
    ],
    ['fine half the way', says([tasting('A', 90, true)], 180), ['short', 90, 'A', null]],
    [
      'another run of the formula went farther',
      says([tasting('A', 90, true), tasting('B', 200, true)], 180),
      ['supported', 200, 'B', null],
    ],
    [
      'one was not, before the label’s day',
      says([tasting('A', 90, true), tasting('B', 120, false), tasting('C', 200, true)], 180),
      ['against', 90, 'A', 120],
    ],
    [
      'one was not, long after it',
      says([tasting('A', 190, true), tasting('B', 300, false)], 180),
      ['supported', 190, 'A', 300],
    ],
    ['no label yet', says([tasting('A', 90, true)], null), ['short', 90, 'A', null]],
  ];
  for (const [what, found, wanted] of table) it(what, () => expect(found).toEqual(wanted));
});
