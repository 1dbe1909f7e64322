import fc from 'fast-check';
import {
  KITCHEN_UNITS,
  parseMass,
  parseNumber,
  parseVolume,
  printMass,
  printNumber,
  readAmount,
  readCapacities,
  readLine,
  readRate,
  type DecimalMark,
} from '../src/index.js';

const value = (outcome: { ok: boolean }): unknown => (outcome as { value?: unknown }).value;
const code = (outcome: { ok: boolean }): string | undefined =>
  (outcome as { refusal?: { code: string } }).refusal?.code;
const grams = (text: string, decimalMark: DecimalMark = 'point') => parseMass({ text, defaultUnit: 'g', decimalMark });

describe('what is typed is read whole, asked about or refused', () => {
  const read: [string, number][] = [
    ['12 500 g', 12_500],
    ['1 200 kg', 1_200_000],
    ['12 500', 12_500],
    ['.50', 0.5],
    ['.5 kg', 500],
    ['2 lb 3 oz', 992.233],
    ['1 kg 250 g', 1250],
    ['1kg250g', 1250],
    ['1 kg + 200 g', 1200],
    ['1 kg and 200 g', 1200],
    ['2 lb, 3 oz', 992.233],
    ['1 1/2 kg', 1500],
    ['½ kg', 500],
    ['1½ kg', 1500],
    ['3/4 lb', 340.194],
    ['850 g.', 850],
    ['2 tonnes', 2_000_000],
    ['1.234,5 g', 1234.5],
    ['1,234.5 g', 1234.5],
    ['1 234,5 g', 1234.5],
  ];
  for (const [text, expected] of read)
    it(`“${text}” is ${expected} g`, () => expect(value(grams(text)) as number).toBeCloseTo(expected, 2));
  const not: [string, string][] = [
    ['1000-500 g', 'quantity.range'],
    ['500 g to 1 kg', 'quantity.range'],
    ['2-3 kg', 'quantity.range'],
    ['2,5.0', 'quantity.unreadable'],
    ['1 1/0 kg', 'quantity.unreadable'],
    ['12 50 g', 'quantity.unitMissing'],
    ['2 lb 3', 'quantity.unitMissing'],
    ['2 T', 'quantity.ambiguous'],
    ['2 t', 'quantity.ambiguous'],
    ['1,500 g', 'quantity.ambiguous'],
    ['500 g 500 g', 'quantity.unreadable'],
    ['500 g turnips', 'quantity.unreadable'],
    ['-5 g', 'mass.notPositive'],
    ['0 g', 'mass.notPositive'],
    ['1 kg 500 mL', 'quantity.unreadable'],
    ['a handful', 'quantity.unreadable'],
    ['1e3 g', 'quantity.unknownUnit'],
    ['500 gg', 'quantity.unknownUnit'],
    ['60 ml', 'mass.volumeOfSolid'],
    ['1 3/2 kg', 'quantity.unreadable'],
    ['~500 g', 'quantity.unreadable'],
    ['1234 567 g', 'quantity.unitMissing'],
    ['1.2.3 kg', 'quantity.unreadable'],
    ['500 g per L', 'quantity.unreadable'],
    ['3 cloves', 'quantity.unreadable'],
  ];
  for (const [text, expected] of not)
    it(`“${text}” is not taken: ${expected}`, () => expect(code(grams(text))).toBe(expected));
  it('the message says what was typed', () =>
    expect((grams('12 50 g') as { refusal: { message: string } }).refusal.message).toContain('12 50 g'));
  it('a comma house asks about its own thousands', () => {
    expect(value(grams('1,250 kg', 'comma'))).toBe(1250);
    expect(code(grams('1.250 g', 'comma'))).toBe('quantity.ambiguous');
  });
});

describe('a line of a recipe', () => {
  it('a sum keeps its parts, and the name keeps nothing of it', () => {
    expect(readLine('2 lb 3 oz turnips')).toEqual(
      jasmine.objectContaining({ name: 'turnips', amount: '2 lb 3 oz', mark: null }),
    );
    expect(readLine('1/4 cup plus 2 tablespoons salt')).toEqual(
      jasmine.objectContaining({ name: 'salt', amount: '1/4 cup plus 2 tablespoons', role: 'salt' }),
    );
    expect(readLine('12 500 g white cabbage, shredded')).toEqual(
      jasmine.objectContaining({ amount: '12 500 g', name: 'white cabbage' }),
    );
  });
  it('what belongs to its words stays with them', () =>
    expect(readLine('500 g turnips and 2 carrots')).toEqual(
      jasmine.objectContaining({ amount: '500 g', name: 'turnips and 2 carrots' }),
    ));
  it('a letter that is a spoon or a tonne, a rate and a range stay open, with their name', () => {
    for (const text of ['2 T salt', '11 g per L salt', '2-3 tbsp salt'])
      expect(readLine(text))
        .withContext(text)
        .toEqual(jasmine.objectContaining({ amount: null }));
    expect(readLine('2-3 tbsp salt').name).toBe('salt');
    expect(readLine('2 T salt').mark).toContain('tonnes');
  });
});

describe('an amount for each', () => {
  const rate = (text: string, scaleBy: 'mainMass' | 'vesselVolume' | 'saltMass' | 'jar' | 'batch' = 'mainMass') =>
    readRate({ text, scaleBy, baseGrams: 1000, pieceGrams: 2, what: 'dill' });
  it('is read only for what the line is counted on', () => {
    expect((value(rate('11 g per kg')) as { amount: number }).amount).toBeCloseTo(0.011, 12);
    expect((value(rate('11 g / L', 'vesselVolume')) as { amount: number }).amount).toBe(11);
    expect((value(rate('3 leaves per 10 L', 'vesselVolume')) as { amount: number }).amount).toBeCloseTo(0.6, 12);
    expect((value(rate('300 g per kg', 'saltMass')) as { understood: string }).understood).toBe('300 g per kg of salt');
    for (const [text, scaleBy] of [
      ['11 g per L', 'mainMass'],
      ['11 g per kg', 'vesselVolume'],
      ['1 g per jar', 'batch'],
      ['2 g per crate', 'jar'],
    ] as const)
      expect(code(rate(text, scaleBy)))
        .withContext(text)
        .toBe('quantity.unknownUnit');
  });
  it('and nothing after it is dropped', () => expect(code(rate('126 g chopped'))).toBe('quantity.unreadable'));
});

describe('capacities, one after the other', () => {
  const ml = (text: string, decimalMark?: DecimalMark) => value(readCapacities({ text, decimalMark }));
  it('commas, blanks, semicolons, litres said or not', () => {
    expect(ml('30, 30,15 10')).toEqual([30_000, 30_000, 15_000, 10_000]);
    expect(ml('30,15')).toEqual([30_000, 15_000]);
    expect(ml('2,5; 5 L', 'comma')).toEqual([2500, 5000]);
    expect(ml('')).toEqual([]);
  });
  it('what is no vessel is refused with its word', () => {
    expect(code(readCapacities({ text: '30, crock' }))).toBe('quantity.unreadable');
    expect(code(readCapacities({ text: '30, -5' }))).toBe('quantity.unreadable');
  });
});

/** A typed amount with what it must be read as: built from its parts, so that the expected figure never goes through a reader. */
interface Typed {
  readonly text: string;
  readonly expected: { readonly base: number; readonly measures: 'mass' | 'volume' } | 'asked or refused';
}

const MASS: readonly (readonly [string, number])[] = [
  ['g', 1],
  ['grams', 1],
  ['kg', 1000],
  ['kilos', 1000],
  ['oz', 28.349523125],
  ['ounces', 28.349523125],
  ['lb', 453.59237],
  ['lbs', 453.59237],
  ['pounds', 453.59237],
  ['mg', 0.001],
  ['G', 1],
  ['KG', 1000],
];
const VOLUME: readonly (readonly [string, number])[] = [
  ['mL', 1],
  ['ml', 1],
  ['L', 1000],
  ['litres', 1000],
  ['cl', 10],
  ['dl', 100],
];
const KITCHEN: readonly (readonly [string, string])[] = [
  ['cup', 'cup'],
  ['cups', 'cup'],
  ['tbsp', 'tbsp'],
  ['tablespoons', 'tbsp'],
  ['tsp', 'tsp'],
  ['qt', 'qt'],
  ['quarts', 'qt'],
  ['pint', 'pt'],
  ['gallons', 'gal'],
  ['fl oz', 'floz'],
];

/** Digits in groups of three. */
const grouped = (whole: number, mark: string): string => String(whole).replace(/\B(?=(\d{3})+$)/g, mark);

const figure = (mark: DecimalMark): fc.Arbitrary<{ text: string; is: number | null }> =>
  fc.oneof(
    fc.integer({ min: 1, max: 9999 }).map((n) => ({ text: String(n), is: n })),
    fc
      .tuple(fc.integer({ min: 1, max: 999_999 }), fc.constantFrom(' ', '\u00a0', '\u2009', '\u202f', '’'))
      .map(([n, blank]) => ({ text: grouped(n, blank), is: n })),
    fc.tuple(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 1, max: 99 })).map(([n, hundredths]) => ({
      text: `${n}${mark === 'comma' ? ',' : '.'}${String(hundredths).padStart(2, '0')}`,
      is: n + hundredths / 100,
    })),
    fc
      .integer({ min: 1, max: 99 })
      .map((n) => ({ text: `${mark === 'comma' ? ',' : '.'}${String(n).padStart(2, '0')}`, is: n / 100 })),
    fc
      .tuple(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 7 }))
      .map(([n, eighths]) => ({ text: `${n} ${eighths}/8`, is: n + eighths / 8 })),
    fc
      .tuple(
        fc.integer({ min: 0, max: 20 }),
        fc.constantFrom(['¼', 0.25] as const, ['½', 0.5] as const, ['¾', 0.75] as const),
      )
      .map(([n, [sign, part]]) => ({ text: `${n === 0 ? '' : n}${sign}`, is: n + part })),
    // Both a decimal and a thousand.
    fc
      .tuple(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 0, max: 999 }))
      .map(([n, rest]) => ({ text: `${n}${mark === 'comma' ? '.' : ','}${String(rest).padStart(3, '0')}`, is: null })),
    fc
      .constantFrom('2,5.0', '1 1/0', '12 50', '1.2.3', '3 5/4', '', 'some', '1e3', '--5')
      .map((text) => ({ text, is: null })),
  );

const typed = (mark: DecimalMark, nation: 'us' | 'imperial' | 'australian'): fc.Arbitrary<Typed> => {
  const single = fc
    .tuple(
      figure(mark),
      fc.constantFrom('', ' ', '  '),
      fc.oneof(
        fc
          .constantFrom(...MASS)
          .map(([word, base]) => ({ word, base: base as number | null, measures: 'mass' as const })),
        fc
          .constantFrom(...VOLUME)
          .map(([word, base]) => ({ word, base: base as number | null, measures: 'volume' as const })),
        fc
          .constantFrom(...KITCHEN)
          .map(([word, key]) => ({ word, base: KITCHEN_UNITS[key]![nation] ?? null, measures: 'volume' as const })),
        fc.constantFrom('T', 't', 'crate', 'gg', '').map((word) => ({ word, base: null, measures: 'mass' as const })),
      ),
    )
    .map(([number, blank, unit]): Typed => ({
      text: `${number.text}${blank}${unit.word}`,
      expected:
        number.is === null || unit.base === null
          ? 'asked or refused'
          : { base: number.is * unit.base, measures: unit.measures },
    }));
  const sum = fc.tuple(single, single, fc.constantFrom(' + ', ' plus ', ' and ')).map(([a, b, between]): Typed => ({
    text: `${a.text}${between}${b.text}`,
    expected:
      a.expected === 'asked or refused' ||
      b.expected === 'asked or refused' ||
      a.expected.measures !== b.expected.measures
        ? 'asked or refused'
        : { base: a.expected.base + b.expected.base, measures: a.expected.measures },
  }));
  const beside = fc
    .tuple(
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 15 }),
      fc.constantFrom(
        [
          ['lb', 453.59237],
          ['oz', 28.349523125],
        ] as const,
        [
          ['kg', 1000],
          ['g', 1],
        ] as const,
      ),
      fc.constantFrom('', ' ', ', '),
    )
    .map(([a, b, [large, small], between]): Typed => ({
      text: `${a} ${large[0]}${between}${b} ${small[0]}`,
      expected: { base: a * large[1] + b * small[1], measures: 'mass' },
    }));
  const range = fc
    .tuple(single, single, fc.constantFrom('-', ' to ', '–', ' or '))
    // "5-lb" is five pounds with a hyphen between, no range.
    .filter(([, b]) => !/^\s*\p{L}/u.test(b.text))
    .map(([a, b, between]): Typed => ({ text: `${a.text}${between}${b.text}`, expected: 'asked or refused' }));
  const trailing = fc
    .tuple(single, fc.constantFrom(' turnips', ' per L', ' !', ' 7', '%'))
    .map(([a, rest]): Typed => ({ text: `${a.text}${rest}`, expected: 'asked or refused' }));
  return fc.oneof({ weight: 5, arbitrary: single }, { weight: 2, arbitrary: sum }, beside, range, trailing);
};

describe('twenty thousand typed amounts', () => {
  for (const mark of ['point', 'comma'] as const) {
    for (const nation of ['us', 'imperial', 'australian'] as const) {
      it(`in a ${mark} house with ${nation} measures: each read whole, asked about or refused, never anything else`, () => {
        fc.assert(
          fc.property(typed(mark, nation), ({ text, expected }) => {
            const outcome = readAmount({ text, nationality: nation, decimalMark: mark });
            if (expected === 'asked or refused') {
              if (outcome.ok) throw new Error(`“${text}” was read as ${outcome.value.least}`);
            } else if (
              !outcome.ok ||
              outcome.value.measures !== expected.measures ||
              Math.abs(outcome.value.least - expected.base) > 1e-6 * Math.max(1, expected.base) ||
              outcome.value.rest !== ''
            ) {
              throw new Error(
                `“${text}” is ${expected.base}, and was ${outcome.ok ? `read as ${outcome.value.least}` : `refused: ${outcome.refusal.message}`}`,
              );
            }
          }),
          { numRuns: 3400 },
        );
        expect(true).toBeTrue();
      });
    }
  }
  it('what is printed is read again as the same: numbers, masses, volumes, in both houses', () => {
    const figureOf = fc.double({ min: 0.001, max: 1_000_000, noNaN: true, noDefaultInfinity: true });
    fc.assert(
      fc.property(
        figureOf,
        fc.constantFrom('point' as const, 'comma' as const),
        fc.constantFrom('g' as const, 'kg' as const),
        (x, mark, unit) => {
          const mass = parseMass({ text: printMass({ grams: x, unit, mark }), defaultUnit: 'g', decimalMark: mark });
          return (
            value(parseNumber({ text: printNumber(x, mark), decimalMark: mark })) === x &&
            mass.ok &&
            Math.abs(mass.value - x) <= x * 1e-12 &&
            Math.abs(
              (value(
                parseVolume({ text: `${printNumber(x, mark)} mL`, defaultUnit: 'L', decimalMark: mark }),
              ) as number) - x,
            ) <=
              x * 1e-12
          );
        },
      ),
      { numRuns: 3000 },
    );
    expect(true).toBeTrue();
  });
});
