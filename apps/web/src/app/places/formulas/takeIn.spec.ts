import { fileFormula, fileMaterial, FORMULA_FORMAT } from '@clear-tally/contract';
import { readRecipe } from '@clear-tally/core';
import { takeIn } from './takeIn';

const readers = { fileFormula, fileMaterial, format: FORMULA_FORMAT, readRecipe };
const formula = (over: object = {}): object => ({
  name: 'Turnips',
  style: 'brinedWhole',
  produce: [{ material: 'Baby turnips', share: 1 }],
  saltBasis: 'ofWater',
  saltFraction: 0.05,
  waterPerProduce: 0.7,
  lines: [{ material: 'Pepper', scaleBy: 'mainMass', amount: 0.003 }],
  solidsFraction: 0.58,
  yields: { trim: 0.8, ferment: 0.93, pack: 0.97 },
  jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
  usualDays: 21,
  note: null,
  ...over,
});
const file = (formulas: unknown, materials: unknown = []): string =>
  JSON.stringify({ format: FORMULA_FORMAT, formatVersion: 1, formulas, materials });
const found = (text: string) => {
  const taken = takeIn(text, readers);
  if (typeof taken === 'string') throw new Error(taken);
  return taken;
};

describe('a file taken in', () => {
  it('a sound formula opens', () =>
    expect(found(file([formula()]))[0]).toEqual(jasmine.objectContaining({ name: 'Turnips', open: true, marks: [] })));
  it('wrong JSON says so and changes nothing', () => expect(takeIn('{"format":', readers)).toContain('no JSON'));
  it('another version of the format is refused', () =>
    expect(takeIn(JSON.stringify({ format: FORMULA_FORMAT, formatVersion: 2 }), readers)).toContain('version 2'));
  it('what is neither formula nor recipe is refused', () => {
    for (const text of ['null', '7', '[]', '{}', '"x"', file([])])
      expect(typeof takeIn(text, readers))
        .withContext(text)
        .toBe('string');
  });
  it('a broken formula does not take the others with it', () => {
    const taken = found(file([formula({ saltFraction: 'much' }), formula({ name: 'Sound' })]));
    expect(taken.map(({ open }) => open)).toEqual([false, true]);
    expect(taken[0]!.marks[0]).toContain('saltFraction');
  });
  it('of a formula with broken lines the sound ones are kept and the rest is named', () => {
    const [taken] = found(
      file([
        formula({
          lines: [
            { material: 'Pepper', scaleBy: 'mainMass', amount: -3 },
            { material: 'Thyme', scaleBy: 'mainMass', amount: 0.004 },
            { material: 'X', scaleBy: 'handful', amount: 1 },
          ],
        }),
      ]),
    );
    expect(taken!.formula!.lines.map(({ material }) => material)).toEqual(['Thyme']);
    expect(taken!.marks.at(-1)).toContain('2 lines are left out');
  });
  it('a script in a name stays a name', () =>
    expect(found(file([formula({ name: '<script>alert(1)</script>' })]))[0]!.name).toBe('<script>alert(1)</script>'));
  it('materials that cannot be read are counted, the others come along', () => {
    const [taken] = found(
      file(
        [formula()],
        [
          { name: 'Pepper', kind: 'flavouring', waterFraction: 0.1, saltFraction: 0, allergens: [], caution: null },
          { name: 'Odd' },
        ],
      ),
    );
    expect(taken!.materials.map(({ name }) => name)).toEqual(['Pepper']);
    expect(taken!.marks[0]).toContain('1 of the materials');
  });
  it('a schema.org recipe with odd amounts keeps them as marks', () => {
    const [taken] = found(
      JSON.stringify({
        '@type': 'Recipe',
        name: 'Odd',
        recipeIngredient: ['a handful of dill', '1,500 g beets', '-2 g mace', '3 turnips', '¾ cup salt'],
      }),
    );
    expect(taken!.recipe!.lines.map(({ amount }) => amount)).toEqual([null, '1500 g', null, '3 pieces', '¾ cup']);
    expect(taken!.marks.length).toBe(2);
    expect(taken!.open).toBeTrue();
  });
});
