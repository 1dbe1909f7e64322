import type { FormulaReply, Material } from '@clear-tally/contract';
import { planFor, readLine, readRecipe } from '@clear-tally/core';
import { amountWords, draftFromFormula, draftFromRecipe } from './draftFrom';
import { type Draft, emptyLine, newDraft, packedAs, unsaid } from './draft';
import { readDraft, saidAt, stableIds } from './readDraft';

const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;
const material = (last: string, name: string, kind: Material['kind'], details: Material['details'] = {}): Material => ({
  id: id(last),
  name,
  kind,
  waterFraction: kind === 'produce' ? 0.92 : 0,
  saltFraction: kind === 'salt' ? 1 : 0,
  allergens: [],
  caution: null,
  details,
});
const MATERIALS = [
  material('a1', 'Baby turnips', 'produce', { pieceGrams: 40 }),
  material('a2', 'Coarse pan salt', 'salt', { grain: 'coarse' }),
  material('a3', 'Black pepper', 'flavouring'),
  material('a4', 'Garlic', 'flavouring', { pieceGrams: 6, pieceName: 'cloves' }),
  material('a5', 'Kept brine', 'starter'),
];
const read = (draft: Draft) => readDraft(draft, MATERIALS, stableIds());
const produce = [{ key: 'p', material: 'Baby turnips', amount: '2 kg' }];
const notebook = (over: Partial<Draft> = {}): Draft =>
  newDraft(9, {
    name: 'Aunt’s turnips',
    produce,
    water: '3 quarts',
    salt: '7 tablespoons',
    saltMaterial: 'fine salt',
    saltBasis: 'ofWater',
    ...over,
  });

describe('what usually goes in of a line', () => {
  const line = (least: string, most: string) =>
    read(notebook({ lines: [{ ...emptyLine('Black pepper', '3 g per kg'), key: 'l', least, most }] }));

  it('is typed as its amount is, in grams or by kitchen measures, and goes with the formula', () => {
    const { body } = line('2 g per kg', '0.5 %');
    expect([body!.lines[0]!.least, body!.lines[0]!.most]).toEqual([0.002, 0.005]);
    expect(line('', '4 g per kg').body!.lines[0]!.least).toBeUndefined();
  });
  it('an end that cannot be read, or the wrong way round, is said at its field', () => {
    expect(saidAt(line('some', ''), 'line.l.least').problem).not.toBeNull();
    expect(saidAt(line('5 g per kg', '2 g per kg'), 'line.l.most').problem).toContain('the lower end first');
  });
});

describe('a recipe out of a notebook', () => {
  it('W2: of unknown nation the salt stays open, and the spread is shown', () => {
    const reading = read(notebook({ saltMaterial: '' }));
    expect(saidAt(reading, 'salt').problem).toContain('2.3 to 4.8 % of the water');
    expect(reading.holes.map(({ key }) => key)).toContain('salt');
    expect(reading.body).not.toBeNull();
  });
  it('W2: US and fine make it 4.26 % of the water', () => {
    const { body, fields } = read(notebook({ nationality: 'us' }));
    expect(body!.saltFraction).toBeCloseTo(0.0426, 4);
    expect(body!.waterPerProduce).toBeCloseTo(2.834 / 2, 3);
    expect(fields['salt']!.say).toBe('= 4.261 %');
  });
  it('W2: Australian spoons and fine salt make it 4.80 %, flake 2.61 %', () => {
    expect(read(notebook({ nationality: 'australian' })).body!.saltFraction).toBeCloseTo(0.048, 4);
    expect(read(notebook({ nationality: 'australian', saltMaterial: 'flake salt' })).body!.saltFraction).toBeCloseTo(
      0.0261,
      4,
    );
  });
  it('salt in grams is counted on what it is counted on', () => {
    expect(read(notebook({ salt: '58 g', saltBasis: 'ofVegetable', water: '' })).body!.saltFraction).toBeCloseTo(
      0.029,
      9,
    );
    expect(read(notebook({ salt: '58 g', saltBasis: 'ofEverything', water: '1.4 L' })).body!.saltFraction).toBeCloseTo(
      58 / (2000 + 1400 * 0.99821),
      6,
    );
    expect(read(notebook({ salt: '58 g', saltBasis: null })).holes.map(({ key }) => key)).toEqual(
      jasmine.arrayContaining(['basis', 'salt']),
    );
    expect(saidAt(read(notebook({ salt: '58 g', saltBasis: 'ofSolution', water: '' })), 'salt').problem).toBe(
      'Say first how much water.',
    );
  });
  it('a brine beyond saturation is refused in the field', () =>
    expect(saidAt(read(notebook({ salt: '40 %' })), 'salt').problem).toContain('up to 0.35'));
  it('amounts for the whole recipe become rates; pieces count with their weight', () => {
    const { body } = read(
      notebook({
        nationality: 'us',
        lines: [
          emptyLine('Black pepper', '8 g'),
          emptyLine('garlic', '6 cloves'),
          { ...emptyLine('Kept brine', '2 %'), scaleBy: 'everything' },
        ],
      }),
    );
    expect(body!.lines.map(({ amount }) => amount)).toEqual([0.004, 0.018, 0.02]);
    expect(body!.lines[1]!.pieceGrams).toBe(6);
  });
  it('a handful is kept with its words, as a hole', () => {
    const { body, holes } = read(notebook({ nationality: 'us', lines: [emptyLine('Lemon thyme', 'a handful')] }));
    expect(body!.lines[0]).toEqual(jasmine.objectContaining({ amount: null, written: 'a handful' }));
    expect(holes.map(({ blocks }) => blocks)).toEqual([false]);
  });
  it('names the house does not know come in with the formula, once, a salt with the grain its name says', () => {
    const { newMaterials } = read(
      notebook({ nationality: 'us', lines: [emptyLine('Lemon thyme', '3 g'), emptyLine('lemon thyme', '2 g')] }),
    );
    expect(newMaterials.map(({ name, kind }) => [name, kind])).toEqual([
      ['Lemon thyme', 'flavouring'],
      ['fine salt', 'salt'],
    ]);
    expect(newMaterials[1]!.details).toEqual({ grain: 'fine' });
  });
  it('several produce share by what was weighed, and add up to one', () => {
    const { body } = read(
      notebook({
        nationality: 'us',
        produce: [
          { key: 'a', material: 'Baby turnips', amount: '1 kg' },
          { key: 'b', material: 'Swede', amount: '700 g' },
          { key: 'c', material: 'Beet', amount: '400 g' },
        ],
      }),
    );
    expect(body!.produce.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
    expect(body!.referenceGrams).toBe(2100);
  });
  it('what stands in the way of keeping it is named; nothing typed is lost', () => {
    expect(read(newDraft(1)).body).toBeNull();
    expect(read(newDraft(1)).inTheWay).toContain('A formula has a name.');
    const odd = read(notebook({ trim: '120', produce: [{ key: 'p', material: 'Baby turnips', amount: '3 litres' }] }));
    expect(odd.body).toBeNull();
    expect(saidAt(odd, 'trim').problem).toContain('1 to 100 is accepted');
    expect(saidAt(odd, 'produce.p.amount').problem).toContain('weighed after trimming');
  });
  it('heavy salt is read with its bounds', () => {
    const heavy = { minutes: '90', cut: 'leaf' as const, rinses: '3', litresPerKg: '2', drain: '80', wanted: '2.6' };
    expect(read(notebook({ heavy, saltBasis: 'ofVegetable', salt: '10 %', water: '' })).body!.heavy).toEqual({
      minutes: 90,
      cut: 'leaf',
      rinses: 3,
      litresPerKg: 2,
      drainYield: 0.8,
      wanted: 0.026,
    });
    expect(read(notebook({ heavy: { ...heavy, wanted: '20' } })).body).toBeNull();
  });
  it('typed line by line it finds its roles, and invents nothing', () => {
    const lines = ['2 kg baby turnips', '3 quarts water', '7 tablespoons fine salt', 'a handful of lemon thyme'].map(
      (text) => readLine(text),
    );
    const draft = draftFromRecipe({ name: 'Turnips', lines, steps: ['Pour.'], note: null, marks: [] }, 9, {
      isProduce: (name) => name === 'baby turnips',
    });
    expect([draft.trim, draft.ferment, draft.pack, draft.solids, draft.usualDays]).toEqual(['', '', '', '', '']);
    expect([draft.produce[0]!.amount, draft.water, draft.salt, draft.saltBasis]).toEqual([
      '2 kg',
      '3 quarts',
      '7 tablespoons',
      null,
    ]);
    expect(draft.lines.map(({ material: name, amount, written }) => [name, amount, written])).toEqual([
      ['lemon thyme', '', 'a handful of lemon thyme'],
    ]);
  });
  it('a range of days is chosen, never filled in with what is usual', () => {
    const of = (words: string) =>
      draftFromRecipe(
        { name: 'x', lines: [readLine('2 kg turnips'), readLine(words)], steps: [], note: null, marks: [] },
        1,
        { isProduce: () => true },
      );
    const range = of('Ferment 10 to 14 days');
    expect([range.usualDays, unsaid(range).includes('usualDays')]).toEqual(['', false]);
    expect(range.marks.join()).toContain('10 to 14 days');
    expect(of('Ferment 3 weeks').usualDays).toBe('21');
    expect(unsaid(of('Ferment well')).includes('usualDays')).toBeTrue();
  });
  it('a hostile name stays a name', () => {
    const hostile = readRecipe({
      '@type': 'Recipe',
      name: '<img src=x onerror=alert(1)>',
      recipeIngredient: ['2 kg turnips'],
    });
    if (!hostile.ok) throw new Error('not read');
    expect(draftFromRecipe(hostile.value, 1, { isProduce: () => false }).name).toBe('<img src=x onerror=alert(1)>');
  });
});

describe('a formula of the book, opened and kept again', () => {
  const formula: FormulaReply = {
    formulaId: id('f1'),
    number: 2,
    version: 4,
    name: 'Baby turnips',
    style: 'brinedWhole',
    form: 'wholeSmall',
    produce: [{ materialId: id('a1'), share: 1, name: 'Baby turnips', waterFraction: 0.92, pieceGrams: 40 }],
    saltBasis: 'ofEverything',
    saltFraction: 0.026,
    saltMaterialId: id('a2'),
    saltName: 'Coarse pan salt',
    waterPerProduce: 0.7,
    referenceGrams: 4000,
    lines: [
      {
        materialId: id('a3'),
        scaleBy: 'mainMass',
        amount: 0.003,
        exponent: 0.9,
        name: 'Black pepper',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        isStarter: false,
      },
      {
        materialId: id('a4'),
        scaleBy: 'jar',
        amount: 0.8,
        perMl: 500,
        name: 'Garlic',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        isStarter: false,
      },
      {
        materialId: id('a3'),
        scaleBy: 'saltMass',
        amount: 0.3,
        least: 0.1,
        most: 0.4,
        name: 'Black pepper',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        isStarter: false,
      },
      {
        materialId: id('a5'),
        scaleBy: 'everything',
        amount: null,
        written: 'a splash',
        name: 'Kept brine',
        waterFraction: 0.95,
        saltFraction: 0,
        allergens: [],
        isStarter: true,
      },
    ],
    solidsFraction: 0.58,
    yields: { trim: 0.81, ferment: 0.93, pack: 0.97, finish: 0.975 },
    jarSizes: [{ sizeMl: 330, fillGrams: 320, perCase: 12 }],
    usualDays: 21,
    note: 'Prick each.',
    variants: [],
    steps: [{ words: 'Pour.', minutes: 60 }],
    checks: [
      { what: 'ph', words: null, rule: { kind: 'onDays', days: [1, 2], thenEveryDays: 7 }, condition: 'always' },
    ],
    done: null,
    rules: { starter: 'kept' },
    pastWaterPhaseSalt: [],
    learned: { trim: null, ferment: null, pack: null },
    versions: [],
    retired: null,
    outsideScope: null,
  };
  it('is the same formula, with the next version', () => {
    const { body, inTheWay } = read(draftFromFormula(formula));
    expect(inTheWay).toEqual([]);
    expect(body).toEqual(
      jasmine.objectContaining({
        formulaId: formula.formulaId,
        version: 5,
        saltBasis: 'ofEverything',
        saltFraction: 0.026,
        waterPerProduce: 0.7,
        referenceGrams: 4000,
        yields: formula.yields,
        jarSizes: formula.jarSizes,
        checks: formula.checks,
        rules: formula.rules,
        steps: formula.steps,
      }) as never,
    );
    expect(body!.lines.map(({ amount, scaleBy }) => [amount, scaleBy])).toEqual([
      [0.003, 'mainMass'],
      [0.8, 'jar'],
      [0.3, 'saltMass'],
      [null, 'everything'],
    ]);
    expect(body!.lines[2]).toEqual(jasmine.objectContaining({ least: 0.1, most: 0.4 }));
  });
  it('a copy is a new formula with a number of its own', () => {
    const copy = draftFromFormula(formula, { number: 14 });
    expect([copy.number, copy.base, copy.name]).toEqual([14, 0, 'Baby turnips, copy']);
    expect(copy.formulaId).not.toBe(formula.formulaId);
  });
  it('amounts stand in the words the editor reads', () => {
    expect([
      amountWords(0.011, 'mainMass'),
      amountWords(0.3, 'saltMass'),
      amountWords(12, 'vessel'),
      amountWords(null, 'batch'),
    ]).toEqual(['11 g per kg', '30 %', '12 g', '']);
  });

  it('packed otherwise, a plan nobody has changed becomes that of the new form', () => {
    const draft = newDraft(1);
    expect(packedAs(draft, 'shred').checks).toEqual(planFor('shred'));
    const own = { ...draft, checks: draft.checks.slice(1) };
    expect(packedAs(own, 'shred')).toEqual({ form: 'shred' });
  });
});
