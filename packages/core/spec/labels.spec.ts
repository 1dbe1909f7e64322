import fc from 'fast-check';
import {
  decideDesign,
  designProblems,
  isGtin,
  jarCode,
  jarInElements,
  givenDays,
  labelClaims,
  type LabelDesign,
  type LabelFacts,
  labelPlace,
  type LabelRun,
  labelWords,
  layOut,
  letterMm,
  symbolContent,
} from '../src/index.js';

const said = (runs: readonly LabelRun[]): string =>
  runs.map(({ words, bold }) => (bold ? `*${words}*` : words)).join('');
const facts: LabelFacts = {
  name: 'Baby turnips',
  ingredients: [
    { name: 'Salt', grams: 180, allergens: [], mayContain: [], carried: false },
    { name: 'Baby turnips', grams: 7200, allergens: [], mayContain: [], carried: false },
    { name: 'Kept brine', grams: 300, allergens: ['Mustard'], mayContain: [], carried: true },
    { name: 'Celeriac', grams: 900, allergens: ['Celery'], mayContain: ['Soya'], carried: false },
    { name: 'Mustard seed', grams: 30, allergens: ['Mustard'], mayContain: [], carried: false },
  ],
  netGrams: 320,
  drainedGrams: 187.4,
  packedOn: '2026-11-25',
  until: { kind: 'bestBefore', on: '2027-05-25' },
  storage: 'cold',
  heated: false,
  saltPer100: 2.54,
  code: 'NY26-309-A-01-00001-K',
  producer: 'Ninefold Yard',
  text: '',
};
const design: LabelDesign = {
  paper: {
    pageWidthMm: 210,
    pageHeightMm: 297,
    columns: 3,
    rows: 7,
    widthMm: 63.5,
    heightMm: 38.1,
    leftMm: 7.2,
    topMm: 15.1,
    gapXMm: 2.5,
    gapYMm: 0,
  },
  fields: (['name', 'ingredients', 'net', 'dates', 'storage', 'salt', 'code', 'producer'] as const).map((key) => ({
    key,
    on: true,
    points: 7,
  })),
  symbol: { kind: 'qrcode', mm: 14 },
  leastLetterMm: 1.2,
  gtin: null,
  until: 'bestBefore',
  untilDays: 180,
  producer: 'Ninefold Yard',
  text: '',
};

describe('what stands on a jar', () => {
  it('W21: ingredients by weight, allergens bold where they stand, also those that came with the brine', () =>
    expect(said(labelWords(facts).ingredients)).toBe(
      'Baby turnips, celeriac (*celery*), kept brine (contains *mustard*), salt, *mustard seed*. May contain *soya*.',
    ));
  it('live or heated by itself; kept as it is kept; what is not known is not said', () => {
    expect(said(labelWords(facts).storage)).toContain('*Live*: contents may push out');
    expect(said(labelWords({ ...facts, heated: true, storage: 'ambient' }).storage)).toBe(
      'Heat treated. Keep in the dark. Once open, in the cold, and use soon.',
    );
    expect(said(labelWords(facts).dates)).toBe('packed 25 Nov 26 · best before *25 May 27*');
    expect(said(labelWords(facts).salt)).toBe('Salt 2.5 g per 100 g (estimate)');
    expect(labelWords({ ...facts, saltPer100: null, ingredients: [] }).salt).toEqual([]);
    expect(labelWords({ ...facts, ingredients: [] }).ingredients).toEqual([]);
    expect(said(labelWords(facts).drained)).toBe('drained about 187 g');
    expect(labelWords({ ...facts, drainedGrams: null }).drained).toEqual([]);
  });
  for (const [text, why] of [
    ['Full of probiotics', 'health'],
    ['good for you', 'health'],
    ['boosts immunity', 'health'],
    ['Alcohol-free', 'alcohol'],
    ['0.0 %', 'alcohol'],
    ['matured in oak', 'age'],
    ['2 years old', 'age'],
  ] as const)
    it(`“${text}” is held back: ${why}`, () => {
      expect(labelClaims(text).map((claim) => claim.why)).toContain(why);
      expect(decideDesign({ ...design, text }).ok).toBeFalse();
    });
  for (const text of ['Crisp, sour, from the yard', 'Shake well', 'Sealed by hand', 'In garlic and lovage'])
    it(`“${text}” stands`, () => expect(labelClaims(text)).toEqual([]));
});

describe('how long a jar is given', () => {
  it('live and cool four weeks at most, cold what its label gives, and none where nothing is printed', () => {
    const days = (storage: 'cold' | 'cellar' | 'ambient' | null, heated: boolean, labelDays: number | null = 240) =>
      givenDays({ labelDays, storage, heated });
    expect([days('cellar', false), days('cellar', false, 14), days('cold', false), days('ambient', true)]).toEqual([
      28, 14, 240, 240,
    ]);
    expect([days('cellar', true), days('cellar', false, null)]).toEqual([240, null]);
  });
});

describe('a design', () => {
  const problems = (change: Partial<LabelDesign>): string[] =>
    designProblems({ ...design, ...change }).map(({ field }) => field);
  const off = (key: string): Partial<LabelDesign> => ({
    fields: design.fields.map((one) => ({ ...one, on: one.key !== key })),
  });
  it('is whole, or what is missing is named', () => {
    expect(problems({})).toEqual([]);
    expect(problems(off('ingredients'))).toEqual(['ingredients']);
    expect(problems(off('salt'))).toEqual([]);
    expect(problems({ producer: ' ' })).toEqual(['producer']);
    expect(problems({ untilDays: null })).toEqual(['dates']);
    expect(problems({ paper: { ...design.paper, columns: 4 } })).toEqual(['columns']);
    expect(problems({ paper: { ...design.paper, rows: 8 } })).toEqual(['rows']);
    expect(problems({ symbol: { kind: 'gs1-128', mm: 50 } })).toEqual(['symbol']);
    expect(problems({ symbol: { kind: 'gs1-128', mm: 50 }, gtin: '4012345678901' })).toEqual([]);
  });
  it('small letters are measured, not points', () => {
    expect(letterMm(6)).toBeLessThan(1.2);
    expect(letterMm(7)).toBeGreaterThan(1.2);
    expect(problems({ fields: [{ key: 'name', on: true, points: 6 }, ...design.fields.slice(1)] })).toEqual(['name']);
  });
  it('an article number by its check digit', () => {
    expect(['4012345678901', '96385074', '10614141000415'].map(isGtin)).toEqual([true, true, true]);
    expect(['4012345678902', '401234567890', '', 'abc'].map(isGtin)).toEqual([false, false, false, false]);
  });
  it('places go row by row, page by page', () => {
    expect(labelPlace(design.paper, 0)).toEqual({ page: 0, xMm: 7.2, yMm: 15.1 });
    expect(labelPlace(design.paper, 4)).toEqual({ page: 0, xMm: 73.2, yMm: 53.2 });
    expect(labelPlace(design.paper, 21).page).toBe(1);
  });
});

describe('words set on a label', () => {
  // A letter is half its size wide: enough to break lines by.
  const measure = (words: string, points: number): number => words.length * points * 0.176;
  it('nothing lies outside, nothing over the symbol or over another line; what does not fit is named', () =>
    fc.assert(
      fc.property(
        fc.record({
          widthMm: fc.integer({ min: 30, max: 120 }),
          heightMm: fc.integer({ min: 15, max: 80 }),
          mm: fc.integer({ min: 8, max: 20 }),
          points: fc.integer({ min: 5, max: 16 }),
        }),
        ({ widthMm, heightMm, mm, points }) => {
          const given: LabelDesign = {
            ...design,
            paper: { ...design.paper, widthMm, heightMm },
            symbol: { kind: 'qrcode', mm },
            fields: design.fields.map((one) => ({ ...one, points })),
          };
          const { texts, symbol, over } = layOut(given, labelWords(facts), measure);
          for (const one of texts) {
            const right = one.xMm + measure(one.words, one.points);
            const bottom = one.yMm + one.points * 0.3528;
            expect(one.xMm >= 0 && right <= widthMm && bottom <= heightMm)
              .withContext(JSON.stringify(one))
              .toBeTrue();
            expect(right <= symbol!.xMm || one.yMm >= symbol!.yMm + symbol!.mm).toBeTrue();
          }
          const shown = new Set(texts.map(({ field }) => field));
          for (const { key } of given.fields) expect(shown.has(key) !== over.includes(key)).toBeTrue();
          // Every word of a field that stands there stands there.
          const bare = (runs: readonly { words: string }[]): string =>
            runs
              .map(({ words }) => words)
              .join('')
              .replace(/\s/g, '');
          const whole = labelWords(facts);
          for (const key of shown) expect(bare(texts.filter(({ field }) => field === key))).toBe(bare(whole[key]));
        },
      ),
      { numRuns: 200 },
    ));
});

describe('fields put where they shall stand', () => {
  const measure = (words: string, points: number): number => words.length * points * 0.176;
  const tall = { ...design, paper: { ...design.paper, heightMm: 50 } };
  const put = (place: { xMm: number; yMm: number; widthMm: number }, more: Partial<LabelDesign> = {}) =>
    layOut(
      { ...tall, fields: design.fields.map((one) => (one.key === 'net' ? { ...one, place } : one)), ...more },
      labelWords(facts),
      measure,
    );
  it('one stands at its place, and the others close up', () => {
    const { texts, over, crossed } = put({ xMm: 40, yMm: 46, widthMm: 20 });
    expect([over, crossed]).toEqual([[], []]);
    expect(texts.find(({ field }) => field === 'net')).toEqual(jasmine.objectContaining({ xMm: 40, yMm: 46 }));
    const without = layOut(
      { ...tall, fields: design.fields.filter(({ key }) => key !== 'net') },
      labelWords(facts),
      measure,
    );
    expect(texts.filter(({ field }) => field !== 'net')).toEqual([...without.texts]);
  });
  it('over others or over the symbol is named on both sides; over the edge does not fit', () => {
    expect(put({ xMm: 2, yMm: 3, widthMm: 30 }).crossed).toEqual(jasmine.arrayContaining(['name', 'net']));
    expect(put({ xMm: 50, yMm: 5, widthMm: 12 }).crossed).toEqual(['net']);
    expect(put({ xMm: 40, yMm: 49, widthMm: 20 }).over).toEqual(['net']);
    expect(put({ xMm: 61, yMm: 30, widthMm: 20 }).over).toEqual(['net']);
  });
  it('a symbol put elsewhere leaves the lines their width', () => {
    const symbol = { kind: 'qrcode', mm: 10, place: { xMm: 52, yMm: 38 } } as const;
    const { symbol: at, texts } = layOut({ ...tall, symbol }, labelWords(facts), measure);
    expect(at).toEqual({ xMm: 52, yMm: 38, mm: 10 });
    // Beside a symbol in its corner a line has 50 mm less its width.
    const corner = layOut({ ...tall, symbol: { kind: 'qrcode', mm: 30 } }, labelWords(facts), measure);
    const beside = corner.texts.filter(({ field }) => field === 'ingredients').length;
    expect(texts.filter(({ field }) => field === 'ingredients').length).toBeLessThan(beside);
  });
  it('nothing outside the label, wherever it is put', () =>
    fc.assert(
      fc.property(
        fc.record({
          xMm: fc.integer({ min: 0, max: 80 }),
          yMm: fc.integer({ min: 0, max: 60 }),
          widthMm: fc.integer({ min: 2, max: 90 }),
        }),
        (place) => {
          for (const one of put(place).texts) {
            expect(one.xMm + measure(one.words, one.points)).toBeLessThanOrEqual(design.paper.widthMm);
            expect(one.yMm).toBeLessThan(tall.paper.heightMm);
          }
        },
      ),
    ));
});

describe('symbols', () => {
  const of = {
    base: 'http://10.0.0.4:4200',
    run: 'NY26-309-A-01',
    jar: jarCode('NY26-309-A-01', 147).text,
    gtin: '4012345678901',
    until: { kind: 'useBy', on: '2027-05-25' },
  } as const;
  it('say the page, or article, lot, serial and date by their identifiers', () => {
    expect(symbolContent('qrcode', of)).toBe(`http://10.0.0.4:4200/trace/${of.jar}`);
    expect(symbolContent('gs1datamatrix', of)).toBe(
      `(01)04012345678901(10)NY26-309-A-01(21)${of.jar.slice(14)}(17)270525`,
    );
    expect(symbolContent('gs1-128', of)).not.toContain('(17)');
  });
  it('lead back to the jar, with brackets or as a scanner sends them', () => {
    const serial = of.jar.slice(14);
    for (const scanned of [
      symbolContent('gs1datamatrix', of),
      symbolContent('gs1-128', of),
      `]d2010401234567890110NY26-309-A-01\u001D21${serial}\u001D17270525`,
      `]C110NY26-309-A-01\u001D21${serial}`,
    ])
      expect(jarInElements(scanned)).withContext(scanned).toBe(of.jar);
    for (const other of [of.jar, 'SP-0002', 'http://10.0.0.4/lots/NY26-309-A-D1', '(10)NY26-309-A-01', '0104', ''])
      expect(jarInElements(other)).withContext(other).toBeNull();
  });
});
