import fc from 'fast-check';
import {
  checkFile,
  compareRollUps,
  HOUSE_RULES,
  jarMix,
  parseVolume,
  readAmount,
  readLine,
  readRecipe,
  rollUp,
  rollUpAllergens,
  ruleInForce,
  rulesInForce,
  sauce,
  scaleFormula,
  setOut,
  writeRecipe,
  type RollUpPart,
  type ScalableFormula,
} from '../src/index.js';

const codeOf = (outcome: { ok: boolean; refusal?: { code: string } }): string =>
  outcome.ok ? 'read' : outcome.refusal!.code;

describe('finishing', () => {
  it('W16: a sauce of 18.40 kg solids', () => {
    const made = sauce({
      solidsGrams: 18_400,
      brineBack: 0.35,
      vinegar: 0.04,
      thickener: 0.0015,
      loss: 0.025,
      bottleMl: 150,
      gramsPerMl: 1.03,
    });
    expect(made.brineBackGrams).toBeCloseTo(6440, 6);
    expect(made.vinegarGrams).toBeCloseTo(994, 0);
    expect(made.thickenerGrams).toBeCloseTo(38.8, 1);
    expect(made.massGrams / 1000).toBeCloseTo(25.87, 2);
    expect(made.bottles).toBe(163);
    expect(made.leftGrams).toBeCloseTo(42, 0);
    expect(setOut({ needed: made.bottles, setOut: 160 })).toEqual({ missing: 3, spare: 0 });
  });
  it('a mix of jars uses the batch up, orders first', () => {
    const sizes = [
      { sizeMl: 330, fillGrams: 320, ordered: 0 },
      { sizeMl: 720, fillGrams: 690, ordered: 1 },
    ];
    const mix = jarMix({ massGrams: 2000, sizes });
    expect(mix.jars.map(({ count }) => count)).toEqual([4, 1]);
    expect(mix.leftGrams).toBeCloseTo(30, 6);
    expect(jarMix({ massGrams: 500, sizes }).missingGrams).toBe(190);
  });
  it('odd masses leave the least too: 317.5 g and 333.3 g, against every mix there is', () => {
    for (const massGrams of [1000, 1902.6, 9525, 6350.1, 20_003.7]) {
      const { jars, leftGrams } = jarMix({
        massGrams,
        sizes: [
          { sizeMl: 330, fillGrams: 317.5, ordered: 0 },
          { sizeMl: 350, fillGrams: 333.3, ordered: 0 },
        ],
      });
      let best = massGrams;
      for (let a = 0; a * 317.5 <= massGrams + 1e-6; a += 1)
        best = Math.min(best, massGrams - a * 317.5 - Math.floor((massGrams - a * 317.5 + 1e-6) / 333.3) * 333.3);
      expect(leftGrams).withContext(`${massGrams}`).toBeCloseTo(best, 4);
      expect(jars.reduce((sum, jar) => sum + jar.count * jar.fillGrams, 0) + leftGrams).toBeCloseTo(massGrams, 6);
    }
  });
  it('law: no other mix of two sizes leaves less', () => {
    fc.assert(
      fc.property(fc.integer({ min: 400, max: 60_000 }), (massGrams) => {
        const sizes = [
          { sizeMl: 330, fillGrams: 320, ordered: 0 },
          { sizeMl: 720, fillGrams: 690, ordered: 0 },
        ];
        const { jars, leftGrams } = jarMix({ massGrams, sizes });
        expect(jars.reduce((sum, jar) => sum + jar.count * jar.fillGrams, 0) + leftGrams).toBeCloseTo(massGrams, 6);
        let least = Infinity;
        for (let large = 0; large * 690 <= massGrams; large += 1)
          least = Math.min(least, (massGrams - large * 690) % 320);
        expect(leftGrams).toBeCloseTo(least, 6);
      }),
      { numRuns: 60 },
    );
  });
});

describe('label and bill', () => {
  const part = (name: string, grams: number, over: Partial<RollUpPart> = {}): RollUpPart => ({
    name,
    grams,
    waterFraction: 0.9,
    saltFraction: 0,
    allergens: [],
    costPerKg: 2,
    ...over,
  });
  const parts = [
    part('Collard', 4000, { boughtGrams: 5000 }),
    part('Celeriac', 1000, { allergens: ['celery'] }),
    part('Soy sauce', 200, {
      saltFraction: 0.17,
      allergens: ['soy', 'gluten'],
      contents: 'water, soybeans, wheat, salt',
    }),
    part('Salt', 100, { isSalt: true }),
    part('Honey', 20, { diet: ['honey'], mayContain: ['nuts'] }),
  ];
  const rolled = rollUp({
    parts,
    jars: 16,
    packagingPerJar: 0.5,
    labour: { fixedMinutes: 60, minutesPerKg: 5, costPerHour: 24 },
  });
  it('ingredients stand in descending order of weight, compounds with their contents', () => {
    expect(rolled.statement.map(({ name }) => name)).toEqual(['Collard', 'Celeriac', 'Soy sauce', 'Salt', 'Honey']);
    expect(rolled.statement[2]!.contents).toContain('wheat');
  });
  it('allergens say where they come from, may-contain apart', () => {
    expect(rolled.allergens.map(({ words, certain }) => [words, certain])).toEqual([
      ['celery', true],
      ['cereals with gluten', true],
      ['soy', true],
      ['nuts', false],
    ]);
    expect(rolled.allergens[1]!.us).toBe('wheat');
  });
  it('salt and sodium per 100 g count what ingredients bring', () => {
    expect(rolled.saltPer100).toBeCloseTo((134 / 5320) * 100, 9);
    expect(rolled.sodiumPer100).toBeCloseTo(rolled.saltPer100 * 0.3934, 9);
  });
  it('cost counts what is bought, labour and packaging', () => {
    expect(rolled.materialCost).toBeCloseTo(2 * (5 + 1 + 0.2 + 0.1 + 0.02), 9);
    expect(rolled.labourMinutes).toBeCloseTo(60 + 5 * 5.32, 9);
    expect(rolled.costPerJar).toBeCloseTo((rolled.materialCost + rolled.labourCost + 8) / 16, 9);
  });
  it('an unpriced line is named, not taken as free', () =>
    expect(rollUp({ parts: [part('Mace', 5, { costPerKg: null })], jars: 1 }).unpriced).toEqual(['Mace']));
  it('honey brings its warning', () => expect(rolled.warnings[0]).toContain('12 months'));
  it('a substitution says what it changes', () => {
    const without = rollUp({ parts: parts.filter(({ name }) => name !== 'Soy sauce'), jars: 16 });
    expect(compareRollUps(rolled, without)).toContain('takes away the allergen soy');
    expect(compareRollUps(rolled, rolled)).toEqual([]);
  });
  it('W21: mustard in a donor’s spices comes along with its brine', () => {
    const donor = rollUpAllergens([{ name: 'Mustard seed', allergens: ['mustard'] }]).map(({ allergen }) => allergen);
    expect(
      rollUpAllergens([
        { name: 'Swede', allergens: [] },
        { name: 'Kept brine', allergens: donor },
      ])[0]!.from,
    ).toEqual(['Kept brine']);
  });
});

describe('amounts of recipes from elsewhere', () => {
  const amount = (text: string, nationality?: 'us') => readAmount({ text, nationality, words: true });
  it('reads fractions, kitchen measures, pieces', () => {
    expect(amount('¾ cup', 'us')).toEqual({
      ok: true,
      value: jasmine.objectContaining({ measures: 'volume', least: 0.75 * 236.588 }) as never,
    });
    expect(amount('1 1/2 qt', 'us')).toEqual({ ok: true, value: jasmine.objectContaining({ count: 1.5 }) as never });
    expect(amount('1/2 cup sugar', 'us')).toEqual({
      ok: true,
      value: jasmine.objectContaining({ count: 0.5, rest: 'sugar' }) as never,
    });
    expect(amount('1½ kg turnips')).toEqual({
      ok: true,
      value: jasmine.objectContaining({ least: 1500, rest: 'turnips' }) as never,
    });
    expect(amount('12 cloves garlic')).toEqual({
      ok: true,
      value: jasmine.objectContaining({ measures: 'pieces', count: 12, rest: 'garlic' }) as never,
    });
    expect(amount('500 g of turnips, peeled')).toEqual({
      ok: true,
      value: jasmine.objectContaining({ least: 500, rest: 'turnips, peeled' }) as never,
    });
  });
  it('a cup of unknown nation keeps its spread', () => {
    const cup = amount('1 cup');
    expect(cup.ok && [cup.value.least, cup.value.most]).toEqual([236.588, 284.131]);
  });
  it('invents nothing', () => {
    expect(codeOf(amount('a handful'))).toBe('quantity.unreadable');
    expect(codeOf(amount('1,500 g'))).toBe('quantity.ambiguous');
    expect(codeOf(amount('-3 g'))).toBe('mass.notPositive');
    expect(codeOf(amount('3'))).toBe('quantity.unitMissing');
    expect(codeOf(amount('1-3 tbsp'))).toBe('quantity.range');
    expect(codeOf(amount('1/0 cup'))).toBe('quantity.unreadable');
    expect(codeOf(amount(''))).toBe('quantity.unreadable');
  });
  it('a volume typed in a field: litres, quarts by nation, never a mass', () => {
    expect(parseVolume({ text: '1.5 L', defaultUnit: 'mL' })).toEqual({ ok: true, value: 1500 });
    expect(parseVolume({ text: '15', defaultUnit: 'L' })).toEqual({ ok: true, value: 15_000 });
    expect(codeOf(parseVolume({ text: '3 qt', defaultUnit: 'L' }))).toBe('quantity.spread');
    expect(codeOf(parseVolume({ text: '3 kg', defaultUnit: 'L' }))).toBe('quantity.unknownUnit');
  });
});

describe('recipes in and out', () => {
  const json = {
    '@graph': [
      { '@type': 'WebPage' },
      {
        '@type': ['Recipe'],
        name: '<script>alert(1)</script> Turnips',
        recipeIngredient: [
          '7 tablespoons fine salt',
          '3 quarts water',
          '2 kg baby turnips',
          'a handful of lemon thyme',
          '1-2 cloves garlic',
        ],
        recipeInstructions: [
          { '@type': 'HowToSection', itemListElement: [{ text: 'Prick each turnip.' }] },
          'Pour the brine.\nClose.',
        ],
      },
    ],
  };
  const outcome = readRecipe(json);
  it('takes lines with their role, steps in order; markup stays text', () => {
    if (!outcome.ok) throw new Error('not read');
    expect(outcome.value.name).toBe('<script>alert(1)</script> Turnips');
    expect(outcome.value.lines.map(({ role, amount }) => [role, amount])).toEqual([
      ['salt', '7 tablespoons'],
      ['water', '3 quarts'],
      ['line', '2 kg'],
      ['line', null],
      ['line', null],
    ]);
    expect(outcome.value.steps).toEqual(['Prick each turnip.', 'Pour the brine.', 'Close.']);
  });
  it('holes keep their words', () => {
    expect(readLine('a handful of lemon thyme')).toEqual(
      jasmine.objectContaining({ name: 'lemon thyme', amount: null, written: 'a handful of lemon thyme' }),
    );
    expect(readLine('garlic, to taste').name).toBe('garlic');
  });
  it('what is no recipe is refused, whatever it is', () => {
    for (const hostile of [
      null,
      7,
      'x',
      [],
      {},
      { '@type': 'Person' },
      { '@graph': [[[[[[[[{ '@type': 'Recipe' }]]]]]]]] },
    ])
      expect(codeOf(readRecipe(hostile))).toBe('file.unreadable');
  });
  it('a film is refused before it is read', () => {
    expect(codeOf(checkFile({ name: 'film.json', bytes: 50_000_000 }))).toBe('file.tooLarge');
    expect(checkFile({ name: 'a.json', bytes: 2_000_000 }).ok).toBeTrue();
  });
  it('law: nothing thrown at it makes it throw', () =>
    fc.assert(
      fc.property(
        fc.jsonValue(),
        (value) =>
          void readRecipe({ '@type': 'Recipe', name: value, recipeIngredient: value, recipeInstructions: value }),
      ),
    ));
  it('out and in again keeps every mass', () => {
    const formula: ScalableFormula = {
      produce: [{ materialId: 't', name: 'Baby turnips', share: 1 }],
      saltBasis: 'ofWater',
      saltFraction: 0.05,
      waterPerProduce: 0.7,
      solidsFraction: 0.6,
      yields: { trim: 1, ferment: 1, pack: 1 },
      lines: [
        { materialId: 'p', name: 'Black pepper', scaleBy: 'mainMass', amount: 0.003 },
        { materialId: 'b', name: 'Bay', scaleBy: 'mainMass', amount: null },
      ],
    };
    const scaled = scaleFormula({ formula, target: { from: 'trimmed', trimmedGrams: 2000 } });
    const written = writeRecipe({
      name: 'Turnips',
      note: null,
      steps: ['Pour.'],
      scaled,
      yieldWords: '6 jars',
      saltName: 'Coarse salt',
      waterName: 'Water',
    });
    const again = readRecipe(JSON.parse(JSON.stringify(written)));
    if (!again.ok) throw new Error('not read');
    expect(again.value.lines.map(({ name, amount, role }) => [name, amount, role])).toEqual([
      ['Baby turnips, trimmed', '2000 g', 'line'],
      ['Water', '1400 g', 'water'],
      ['Coarse salt', '70 g', 'salt'],
      ['Black pepper', '6 g', 'line'],
      ['Bay', null, 'line'],
    ]);
  });
});

describe('house rules', () => {
  it('the riskier ways ask something, the usual ones nothing', () => {
    for (const rule of HOUSE_RULES) {
      const usual = rule.options.find(({ key }) => key === rule.usual);
      expect(usual).withContext(rule.key).toBeDefined();
      expect(usual!.asks).withContext(rule.key).toBeNull();
    }
  });
  it('a formula overrides the house where it may, the house the usual way', () => {
    const rule = HOUSE_RULES.find(({ key }) => key === 'starter')!;
    expect(ruleInForce(rule, {}).from).toBe('usual');
    expect(ruleInForce(rule, { starter: 'kept' }).option.key).toBe('kept');
    expect(ruleInForce(rule, { starter: 'kept' }, { starter: 'culture' }).from).toBe('formula');
    expect(rulesInForce({}, { acidLimit: '4.6' })['acidLimit']).toBe('4.2');
  });
  it('no limit lies above 4.6', () => {
    for (const { key } of HOUSE_RULES.find((rule) => rule.key === 'acidLimit')!.options)
      expect(Number(key)).toBeLessThanOrEqual(4.6);
  });
});
