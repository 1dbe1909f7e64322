import {
  ALLERGEN_KEYS,
  compareRollUps,
  decideAllergens,
  proposedAllergens,
  rollUp,
  undecidedAllergens,
  type RollUpPart,
} from '../src/index.js';

describe('allergens by the name of a material', () => {
  const table: readonly (readonly [string, readonly string[]])[] = [
    ['Celery seed', ['celery']],
    ['Knollensellerie', ['celery']],
    ['Graines de céleri', ['celery']],
    ['Sedano rapa', ['celery']],
    ['Yellow mustard seed', ['mustard']],
    ['Senfkörner', ['mustard']],
    ['Moutarde de Meaux', ['mustard']],
    ['Semi di senape', ['mustard']],
    ['Salted shrimp', ['crustaceans']],
    ['Getrocknete Garnelen', ['crustaceans']],
    ['Pâte de crevettes', ['crustaceans']],
    ['Krill paste', ['crustaceans']],
    ['Anchovy sauce', ['fish']],
    ['Sardellen in Salz', ['fish']],
    ['Nam pla', ['fish']],
    ['Colatura', ['fish']],
    ['Bonito flakes', ['fish']],
    ['Whey', ['milk']],
    ['Süßmolke', ['milk']],
    ['Molke', ['milk']],
    ['Lactosérum', ['milk']],
    ['Sahne', ['milk']],
    ['Petit-lait', ['milk']],
    ['Rotsenf', ['mustard']],
    ['Rye flakes', ['gluten']],
    ['Roggenmehl', ['gluten']],
    ['Farine de seigle', ['gluten']],
    ['Barley malt', ['gluten']],
    ['Weizenkleie', ['gluten']],
    ['Soy sauce', ['gluten', 'soy']],
    ['Shoyu', ['gluten', 'soy']],
    ['Sojabohnen', ['soy']],
    ['Tofu', ['soy']],
    ['Miso', ['gluten', 'soy']],
    ['Sesame oil', ['sesame']],
    ['Sésame grillé', ['sesame']],
    ['Tahini', ['sesame']],
    ['Hazelnuts', ['nuts']],
    ['Walnuss', ['nuts']],
    ['Mandorle', ['nuts']],
    ['Mixed nuts', ['nuts']],
    ['Erdnüsse', ['peanuts']],
    ['Peanut butter', ['peanuts', 'milk']],
    ['Oyster sauce', ['molluscs']],
    ['Calamares', ['molluscs']],
    ['Egg white', ['eggs']],
    ['Huevo en polvo', ['eggs']],
    ['White wine', ['sulphites']],
    ['Sodium metabisulphite', ['sulphites']],
    ['Lupinenmehl', ['lupin']],
    ['Almond flour', ['nuts']],
    ['Buckwheat flour', []],
    ['Weizenmehl', ['gluten']],
    // What only sounds like it.
    ['Buckwheat', []],
    ['Nutmeg', []],
    ['Butternut squash', []],
    ['Eggplant', []],
    ['Oyster mushrooms', []],
    ['Kohlrabi', []],
    ['Lemon thyme', []],
    ['Coarse pan salt', []],
    ['Grapes', []],
    ['Pineapple', []],
    ['Bleached cardoon', []],
    ['Rice flour', []],
    ['Chilli', []],
    ['Dill seed', []],
    ['Goat weed', []],
  ];
  for (const [name, expected] of table)
    it(`“${name}”: ${expected.join(', ') || 'none proposed'}`, () =>
      expect(proposedAllergens(name).join()).toBe(
        [...expected].sort((a, b) => ALLERGEN_KEYS.indexOf(a as 'fish') - ALLERGEN_KEYS.indexOf(b as 'fish')).join(),
      ));
  it('also by the contents on its label', () =>
    expect(proposedAllergens('Umami paste', 'water, soybeans, wheat, salt')).toEqual(['gluten', 'soy']));
  it('is settled by a person, one way or the other', () => {
    const of = (more: object) => ({ name: 'Mustard greens', allergens: [], ...more });
    expect(undecidedAllergens(of({}))).toEqual(['mustard']);
    expect(
      [of({ allergens: ['mustard'] }), of({ mayContain: ['mustard'] }), of({ notAllergens: ['mustard'] })].map(
        (one) => decideAllergens(one).ok,
      ),
    ).toEqual([true, true, true]);
    const asked = decideAllergens(of({}));
    expect(!asked.ok && [asked.refusal.code, asked.refusal.facts!['proposed']]).toEqual([
      'material.allergenAsked',
      ['mustard'],
    ]);
  });
});

describe('the statement and a substitution', () => {
  const part = (name: string, more: Partial<RollUpPart> = {}): RollUpPart => ({
    name,
    grams: 100,
    waterFraction: 0.9,
    saltFraction: 0,
    allergens: [],
    ...more,
  });
  const of = (parts: RollUpPart[]) => rollUp({ parts, jars: 0 });
  it('marks the line that has an allergen even when two parts share its name, whichever comes first', () => {
    for (const parts of [
      [part('Paste'), part('Paste', { allergens: ['fish'] })],
      [part('Paste', { allergens: ['fish'] }), part('Paste')],
    ])
      expect(of(parts).statement).toEqual([jasmine.objectContaining({ name: 'Paste', marked: true, share: 1 })]);
    expect(of([part('Paste'), part('Roots')]).statement.every(({ marked }) => !marked)).toBeTrue();
  });
  it('says what stays possible and what has become so', () => {
    const [certain, may, none] = [
      part('Sauce', { allergens: ['fish'] }),
      part('Sauce', { mayContain: ['fish'] }),
      part('Sauce'),
    ];
    const said = (a: RollUpPart, b: RollUpPart): string => compareRollUps(of([a]), of([b])).join('; ');
    expect(said(certain, may)).toContain('still may contain it');
    expect(said(may, may)).toBe('');
    expect(said(none, part('Sauce', { mayContain: ['nuts'] }))).toContain('now may contain nuts');
    expect(said(certain, none)).toContain('takes away the allergen fish');
    expect(said(may, none)).toContain('no longer may contain fish');
    expect(said(may, certain)).toContain('adds the allergen fish');
    expect(said(none, none)).toBe('');
  });
});
