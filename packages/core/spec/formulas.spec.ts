import fc from 'fast-check';
import {
  decideScope,
  decideStart,
  differences,
  formulaHoles,
  learnedYield,
  outsideScope,
  readRate,
  scaleFormula,
  wholeCases,
  wholeHeads,
  type FormulaLine,
  type ScalableFormula,
  type ScaleTarget,
} from '../src/index.js';

const line = (over: Partial<FormulaLine>): FormulaLine => ({
  materialId: 'm',
  name: 'Juniper',
  scaleBy: 'mainMass',
  amount: 0.01,
  ...over,
});
const formula = (over: Partial<ScalableFormula> = {}): ScalableFormula => ({
  produce: [{ materialId: 'turnip', name: 'Baby turnips', share: 1, waterFraction: 0.92 }],
  saltBasis: 'ofEverything',
  saltFraction: 0.026,
  waterPerProduce: 0.7,
  lines: [],
  solidsFraction: 0.58,
  yields: { trim: 0.81, ferment: 0.93, pack: 0.97 },
  form: 'wholeSmall',
  ...over,
});
const trimmed = (trimmedGrams: number): ScaleTarget => ({ from: 'trimmed', trimmedGrams });
const amountOf = (of: FormulaLine, target = trimmed(10_000), vesselCount?: number) =>
  scaleFormula({ formula: formula({ lines: [of] }), target, vesselCount }).lines.find(({ key }) => key === 'line-0')!;

describe('what a line is counted on', () => {
  it('everything: solids and water', () =>
    expect(amountOf(line({ scaleBy: 'everything', amount: 0.001 })).grams).toBeCloseTo(17, 6));
  it('a litre of filled vessel', () =>
    expect(amountOf(line({ scaleBy: 'vesselVolume', amount: 0.3 })).grams).toBeCloseTo(0.3 * 17.442, 3));
  it('a vessel: one cover leaf each', () =>
    expect(amountOf(line({ scaleBy: 'vessel', amount: 12 }), undefined, 3).grams).toBe(36));
  it('a jar, in proportion to its size: 0.8 g per 500 mL', () => {
    const jars: ScaleTarget = {
      from: 'jars',
      jars: [
        { sizeMl: 500, count: 10, fillGrams: 480 },
        { sizeMl: 250, count: 4, fillGrams: 240 },
      ],
    };
    const firming = amountOf(line({ scaleBy: 'jar', amount: 0.8, perMl: 500 }), jars);
    expect(firming.grams).toBeCloseTo(9.6, 9);
    expect(firming.stage).toBe('pack');
  });
  it('the finished mass', () => {
    const scaled = scaleFormula({
      formula: formula({ lines: [line({ scaleBy: 'finishedMass', amount: 0.0015 })] }),
      target: trimmed(10_000),
    });
    expect(scaled.lines.at(-1)!.grams).toBeCloseTo(0.0015 * scaled.chain.filledGrams, 9);
  });
  it('to taste is recorded, not computed', () =>
    expect(amountOf(line({ scaleBy: 'toTaste', amount: null })).grams).toBeNull());
  it('pieces are whole, the rounding is shown', () => {
    const cloves = amountOf(line({ name: 'Garlic', amount: 0.004, pieceGrams: 7 }));
    expect([cloves.pieces, cloves.grams]).toEqual([6, 42]);
    expect(cloves.working.sources.at(-1)).toEqual({ what: '6 × 7 g', from: 'rounded to whole pieces' });
  });
  it('an exponent under one takes less than in proportion', () => {
    expect(amountOf(line({ exponent: 0.8 }), trimmed(1000)).grams).toBeCloseTo(10, 9);
    expect(amountOf(line({ exponent: 0.8 }), trimmed(10_000)).grams).toBeCloseTo(100 * 10 ** -0.2, 9);
  });
  it('outside its usual range the bench asks', () => {
    expect(amountOf(line({ amount: 0.02, least: 0.002, most: 0.012 })).ask).toContain('over its usual range');
    expect(amountOf(line({ amount: 0.01, least: 0.002, most: 0.012 })).ask).toBeNull();
  });
  it('a variant leaves out the lines of the others', () => {
    const soy = formula({ lines: [line({ name: 'Soy sauce', variants: ['with soy'] }), line({ name: 'Chilli' })] });
    const names = (variant: string | null) =>
      scaleFormula({ formula: soy, target: trimmed(1000), variant })
        .lines.filter(({ role }) => role === 'ingredient')
        .map(({ name }) => name);
    expect(names('with soy')).toEqual(['Soy sauce', 'Chilli']);
    expect(names('without soy')).toEqual(['Chilli']);
  });
});

describe('targets', () => {
  it('bought mass goes through the trim yield', () =>
    expect(
      scaleFormula({ formula: formula(), target: { from: 'bought', boughtGrams: 10_000 } }).produceGrams,
    ).toBeCloseTo(8100, 9));
  it('vessels: produce and brine fill their usable room', () => {
    const scaled = scaleFormula({
      formula: formula(),
      target: { from: 'vessels', vessels: [{ tag: 'D1', brimMl: 15_000, maxFill: 0.88, weightVolumeMl: 350 }] },
    });
    const solids = scaled.produceGrams / 0.965;
    const salt = scaled.saltGrams / (scaled.saltGrams + scaled.waterGrams);
    const brine =
      (scaled.saltGrams + scaled.waterGrams) /
      (0.99821 + 0.7092277 * salt + 0.1180166 * salt ** 2 + 0.3748618 * salt ** 3);
    expect(solids + brine).toBeCloseTo(12_850, 3);
  });
  it('a limiting spice: the stock is used up exactly', () => {
    const spiced = formula({ lines: [line({ materialId: 'mace', amount: 0.0025 })] });
    expect(
      scaleFormula({ formula: spiced, target: { from: 'stock', materialId: 'mace', grams: 50 } }).produceGrams,
    ).toBeCloseTo(20_000, 3);
  });
  it('a limiting produce counts as bought', () =>
    expect(
      scaleFormula({ formula: formula(), target: { from: 'stock', materialId: 'turnip', grams: 10_000 } }).produceGrams,
    ).toBeCloseTo(8100, 6));
  it('refuses a stock that the formula does not use', () =>
    expect(() =>
      scaleFormula({ formula: formula(), target: { from: 'stock', materialId: 'nutmeg', grams: 5 } }),
    ).toThrowError(RangeError));
  it('whole cases round up and say the surplus', () => {
    const { jars, surplus } = wholeCases([{ sizeMl: 330, count: 100, fillGrams: 320, perCase: 12 }]);
    expect(jars[0]!.count).toBe(108);
    expect(surplus).toEqual([{ sizeMl: 330, count: 8 }]);
  });
  it('whole heads round up and say what they bring', () => {
    expect(wholeHeads({ boughtGrams: 10_000, pieceGrams: 900, trimYield: 0.8 })).toEqual({
      heads: 12,
      boughtGrams: 10_800,
      surplusTrimmedGrams: 640,
    });
  });
  it('a learned yield is the median of the last lots with its spread', () => {
    expect(learnedYield([0.8, 0.84, 0.78, 0.82])).toEqual({ median: 0.81, least: 0.78, most: 0.84, lots: 4 });
    expect(learnedYield([])).toBeNull();
  });
  it('law: whatever the target, the masses add up to what the water phase counts', () => {
    const target = fc.oneof(
      fc.integer({ min: 100, max: 90_000 }).map(trimmed),
      fc.integer({ min: 100, max: 90_000 }).map((boughtGrams): ScaleTarget => ({ from: 'bought', boughtGrams })),
      fc
        .integer({ min: 1, max: 900 })
        .map((count): ScaleTarget => ({ from: 'jars', jars: [{ sizeMl: 330, fillGrams: 320, count }] })),
    );
    fc.assert(
      fc.property(target, fc.double({ min: 0.015, max: 0.08, noNaN: true }), (of, saltFraction) => {
        const scaled = scaleFormula({ formula: formula({ saltFraction }), target: of });
        const produce = scaled.lines
          .filter(({ role }) => role === 'produce')
          .reduce((sum, { grams }) => sum + grams!, 0);
        expect(produce).toBeCloseTo(scaled.produceGrams, 6);
        expect(scaled.saltGrams / (scaled.saltGrams + scaled.waterGrams + 0.92 * scaled.produceGrams)).toBeCloseTo(
          scaled.waterPhaseSalt,
          12,
        );
      }),
    );
  });
});

describe('heavy salt in a formula', () => {
  const leaf = formula({
    produce: [{ materialId: 'collard', name: 'Collard', share: 1, waterFraction: 0.92 }],
    saltBasis: 'ofVegetable',
    saltFraction: 0.1,
    waterPerProduce: 0,
    form: 'leaf',
    heavy: { minutes: 90, cut: 'leaf', rinses: 3, litresPerKg: 2, drainYield: 0.8, wanted: 0.03 },
    lines: [line({ name: 'Paste', amount: 0.25, waterFraction: 0.7, saltFraction: 0 })],
  });
  it('salts heavily, rinses, and brings leaf and paste to what was wanted', () => {
    const scaled = scaleFormula({ formula: leaf, target: trimmed(1000) });
    expect(scaled.saltGrams).toBe(100);
    expect(scaled.heavy!.estimate).toBeCloseTo(0.0272, 4);
    expect(scaled.waterPhaseSalt).toBeCloseTo(0.03, 6);
    expect(scaled.heavy!.pasteSaltGrams).toBeGreaterThan(0);
  });
  it('a measured leaf replaces the estimate and says so', () => {
    const scaled = scaleFormula({ formula: leaf, target: trimmed(1000), measuredLeafSalt: 0.031 });
    expect(scaled.lines.find(({ key }) => key === 'paste-salt')!.working.sources[0]!.from).toContain(
      'measured on the drained juice',
    );
  });
});

describe('holes', () => {
  const open = formula({
    saltFraction: null,
    saltBasis: null,
    waterPerProduce: null,
    lines: [
      line({ name: 'Lemon thyme', amount: null, written: 'a handful' }),
      line({ name: 'Kept brine', amount: null, isStarter: true }),
      line({ scaleBy: 'toTaste', amount: null }),
    ],
  });
  it('are named; salt, basis, water and a starter keep a batch from starting', () => {
    expect(formulaHoles(open).map(({ key, blocks }) => [key, blocks])).toEqual([
      ['basis', true],
      ['salt', true],
      ['water', true],
      ['line-0', false],
      ['line-1', true],
    ]);
    expect(decideStart({ name: 'Turnips', retired: false, holes: formulaHoles(open) }).ok).toBeFalse();
  });
  it('a starter is weighed, never to taste', () =>
    expect(
      formulaHoles(formula({ lines: [line({ scaleBy: 'toTaste', amount: null, isStarter: true })] })).map(
        ({ key, blocks }) => [key, blocks],
      ),
    ).toEqual([['line-0', true]]));
  it('what is heated says how in its steps', () => {
    const keys = (steps: string[], heated = true): string[] =>
      formulaHoles({ ...formula({}), heated, steps: steps.map((words) => ({ words })) }).map(({ key }) => key);
    expect([
      keys([]),
      keys(['Cut, salt, pack.']),
      keys(['Hot-fill at 88 °C, by the process on file.']),
      keys([], false),
    ]).toEqual([['heat'], ['heat'], [], []]);
  });
  it('a line per jar, where no jars are named, depends on them and is no nought', () => {
    const of = formula({ lines: [line({ scaleBy: 'jar', amount: 0.8 })] });
    const grams = (target: ScaleTarget) =>
      scaleFormula({ formula: of, target }).lines.find(({ key }) => key === 'line-0')!;
    expect([
      grams({ from: 'trimmed', trimmedGrams: 5000 }).grams,
      grams({ from: 'trimmed', trimmedGrams: 5000 }).working.answer,
    ]).toEqual([null, 'depends on jars']);
    expect(grams({ from: 'jars', jars: [{ sizeMl: 330, count: 10, fillGrams: 320 }] }).grams).toBeCloseTo(8, 9);
  });
  it('a line of unknown water has the usual', () => {
    const wps = (waterFraction?: number): number =>
      scaleFormula({
        formula: formula({ lines: [line({ scaleBy: 'mainMass', amount: 0.1, waterFraction })] }),
        target: { from: 'trimmed', trimmedGrams: 1000 },
      }).waterPhaseSalt;
    expect(wps()).toBeCloseTo(wps(0.92), 12);
  });
  it('an open flavouring does not', () =>
    expect(
      decideStart({
        name: 'Turnips',
        retired: false,
        holes: formulaHoles(formula({ lines: [line({ amount: null })] })),
      }).ok,
    ).toBeTrue());
  it('a formula with holes is scaled as far as it goes', () => {
    const scaled = scaleFormula({ formula: open, target: trimmed(1000) });
    expect(scaled.lines.find(({ role }) => role === 'salt')!.grams).toBeNull();
    expect(scaled.lines.find(({ name }) => name === 'Lemon thyme')!.grams).toBeNull();
  });
  it('a retired formula starts nothing', () =>
    expect(decideStart({ name: 'Turnips', retired: true, holes: [] }).ok).toBeFalse());
});

describe('an amount typed for a line', () => {
  const rate = (text: string, over: object = {}) => readRate({ text, scaleBy: 'mainMass', baseGrams: 4000, ...over });
  const amount = (text: string, over: object = {}) => {
    const outcome = rate(text, over);
    return outcome.ok ? outcome.value.amount : outcome.refusal.code;
  };
  it('reads rates, shares, masses, pieces and spoons with a known weight', () => {
    expect(amount('11 g per kg')).toBeCloseTo(0.011, 12);
    expect(amount('11 g/kg')).toBeCloseTo(0.011, 12);
    expect(amount('1,1 %')).toBeCloseTo(0.011, 12);
    expect(amount('5')).toBeCloseTo(0.005, 12);
    expect(amount('44 g')).toBeCloseTo(0.011, 12);
    expect(amount('6 cloves', { pieceGrams: 7 })).toBeCloseTo(0.0105, 12);
    expect(amount('2 tbsp', { gramsPerMl: 0.4, nationality: 'metric' })).toBeCloseTo(0.003, 12);
    expect(amount('0.3 g per L', { scaleBy: 'vesselVolume' })).toBeCloseTo(0.3, 12);
    expect(amount('30', { scaleBy: 'saltMass' })).toBeCloseTo(0.3, 12);
    expect(amount('12 g', { scaleBy: 'batch' })).toBe(12);
  });
  it('refuses what cannot be weighed, so that it stays a hole', () => {
    expect(amount('a handful')).toBe('quantity.unreadable');
    expect(amount('1 to 3 tbsp')).toBe('quantity.range');
    expect(amount('2 tbsp')).toBe('mass.volumeOfSolid');
    expect(amount('2 tbsp', { gramsPerMl: 1 })).toBe('quantity.spread');
    expect(amount('6 cloves')).toBe('quantity.unitMissing');
    expect(amount('1,500 g')).toBe('quantity.ambiguous');
    expect(amount('-5 g')).toBe('mass.notPositive');
    expect(amount('0')).toBe('mass.notPositive');
    expect(amount('44 g', { baseGrams: null })).toBe('quantity.unitMissing');
    expect(amount('3 %', { scaleBy: 'batch' })).toBe('quantity.unknownUnit');
  });
  it('law: a rate in g per kg there and back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), (tenths) => {
        expect(amount(`${tenths / 10} g per kg`)).toBeCloseTo(tenths / 10_000, 12);
      }),
    );
  });
});

describe('the scope', () => {
  it('fish, eggs, dairy, alcohol and vinegar are noted only, and the page says why', () => {
    expect(outsideScope({ groups: ['vegetable', 'fish'] })).toContain('fish');
    expect(outsideScope({ makes: 'vinegar', groups: ['fruit'] })).toContain('no check plan and no release');
    const outcome = decideScope({ groups: ['egg'] });
    expect(!outcome.ok && outcome.refusal.code).toBe('formula.outsideScope');
  });
  it('vegetables and fruit are inside', () =>
    expect(decideScope({ makes: null, groups: ['vegetable', 'fruit', null] }).ok).toBeTrue());
});

describe('two versions side by side', () => {
  const before = [
    { key: 'salt', what: 'Salt', words: '2.2 %' },
    { key: 'a', what: 'Juniper', words: '3 g per kg' },
    { key: 'b', what: 'Mace', words: '1 g per kg' },
  ];
  it('says what changed, what came and what went, and nothing else', () => {
    expect(
      differences(before, [
        { key: 'salt', what: 'Salt', words: '2.3 %' },
        before[1]!,
        { key: 'c', what: 'Nigella', words: '2 g per kg' },
      ]),
    ).toEqual([
      { what: 'Salt', before: '2.2 %', after: '2.3 %' },
      { what: 'Nigella', before: null, after: '2 g per kg' },
      { what: 'Mace', before: '1 g per kg', after: null },
    ]);
  });
  it('law: a version does not differ from itself', () => expect(differences(before, before)).toEqual([]));
});
