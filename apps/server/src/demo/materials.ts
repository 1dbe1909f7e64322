import type { BodyOf } from '@clear-tally/contract';

type Details = NonNullable<BodyOf<'material.add'>['details']>;
export interface DemoMaterial {
  readonly key: string;
  readonly name: string;
  readonly kind: BodyOf<'material.add'>['kind'];
  readonly water: number;
  readonly salt?: number;
  readonly allergens?: string[];
  readonly caution?: string;
  readonly details?: Details;
}

const vegan = { diet: ['vegan'] };
const vegetable = (
  form: NonNullable<Details['form']>,
  trimYield: number,
  costPerKg: number,
  more: Details = {},
): Details => ({ group: 'vegetable', form, trimYield, costPerKg, ...vegan, ...more });
const spice = (costPerKg: number, more: Details = {}): Details => ({ costPerKg, ...vegan, ...more });

/** Everything Ninefold Yard buys. Prices are made up. */
export const DEMO_MATERIALS: readonly DemoMaterial[] = [
  {
    key: 'kohlrabi',
    name: 'Kohlrabi',
    kind: 'produce',
    water: 0.91,
    details: vegetable('shred', 0.78, 1.6, { pieceGrams: 420, pieceName: 'heads' }),
  },
  {
    key: 'celeriac',
    name: 'Celeriac',
    kind: 'produce',
    water: 0.88,
    allergens: ['celery'],
    details: vegetable('shred', 0.74, 1.9, { pieceGrams: 900, pieceName: 'heads' }),
  },
  {
    key: 'turnip',
    name: 'Baby turnips',
    kind: 'produce',
    water: 0.92,
    details: vegetable('wholeSmall', 0.81, 2.4, { gramsPerMl: 0.96 }),
  },
  {
    key: 'collard',
    name: 'Collard',
    kind: 'produce',
    water: 0.92,
    details: { ...vegetable('leaf', 0.72, 2.2), atDoor: ['variety', 'celsius'] },
  },
  {
    key: 'physalis',
    name: 'Physalis',
    kind: 'produce',
    water: 0.86,
    details: { ...vegetable('mash', 0.9, 5.8), group: 'fruit' },
  },
  {
    key: 'chilli',
    name: 'Green chilli',
    kind: 'produce',
    water: 0.88,
    caution: 'Gloves and goggles; ventilate.',
    details: vegetable('mash', 0.92, 4.4),
  },
  {
    key: 'gooseberry',
    name: 'Green gooseberries',
    kind: 'produce',
    water: 0.88,
    details: { ...vegetable('berries', 0.95, 4.9), group: 'fruit' },
  },
  { key: 'celtuce', name: 'Celtuce', kind: 'produce', water: 0.94, details: vegetable('sticks', 0.62, 2.9) },
  {
    key: 'ramson',
    name: 'Ramson buds',
    kind: 'produce',
    water: 0.88,
    caution: 'An allium starts slowly: pH on days 1, 2 and 3; cold when it is reached.',
    details: vegetable('cloves', 0.95, 14),
  },
  {
    key: 'swede',
    name: 'Swede',
    kind: 'produce',
    water: 0.9,
    details: vegetable('shred', 0.82, 1.2, { pieceGrams: 800, pieceName: 'roots' }),
  },
  { key: 'parsnip', name: 'Parsnip', kind: 'produce', water: 0.8, details: vegetable('shred', 0.84, 1.5) },
  {
    key: 'coarse',
    name: 'Coarse pan salt',
    kind: 'salt',
    water: 0,
    salt: 1,
    details: {
      grain: 'coarse',
      purity: 0.985,
      gramsPer15Ml: 15.2,
      spoonWeighed: true,
      costPerKg: 1.2,
      lowStockGrams: 10_000,
    },
  },
  {
    key: 'fine',
    name: 'Fine table salt, anti-caking',
    kind: 'salt',
    water: 0,
    salt: 1,
    caution: 'Carries an anti-caking agent: the brine may cloud or darken.',
    details: { grain: 'fine', purity: 0.99, antiCaking: true, costPerKg: 0.9 },
  },
  {
    key: 'flake',
    name: 'Flake sea salt',
    kind: 'salt',
    water: 0,
    salt: 1,
    details: { grain: 'flake', purity: 0.98, costPerKg: 6.5 },
  },
  {
    key: 'water',
    name: 'Mains water, carbon filtered',
    kind: 'water',
    water: 1,
    details: { treatment: 'carbon filter, changed each month' },
  },
  {
    key: 'juniper',
    name: 'Juniper berries',
    kind: 'flavouring',
    water: 0.1,
    details: spice(24, { lowStockGrams: 500 }),
  },
  { key: 'thyme', name: 'Lemon thyme', kind: 'flavouring', water: 0.7, details: spice(28) },
  { key: 'pepper', name: 'Black pepper', kind: 'flavouring', water: 0.1, details: spice(22, { lowStockGrams: 1000 }) },
  { key: 'mustard', name: 'Mustard seed', kind: 'flavouring', water: 0.06, allergens: ['mustard'], details: spice(7) },
  { key: 'lovage', name: 'Lovage leaf', kind: 'flavouring', water: 0.8, details: spice(18) },
  { key: 'damson', name: 'Damsons, stoned', kind: 'flavouring', water: 0.85, details: spice(4.2) },
  {
    key: 'redchilli',
    name: 'Red chilli, dried',
    kind: 'flavouring',
    water: 0.1,
    caution: 'Gloves and goggles; ventilate.',
    details: spice(19),
  },
  {
    key: 'buckwheat',
    name: 'Buckwheat porridge',
    kind: 'flavouring',
    water: 0.86,
    details: spice(0.9, { contents: 'water, buckwheat flour' }),
  },
  {
    key: 'garlic',
    name: 'Garlic',
    kind: 'flavouring',
    water: 0.62,
    details: spice(8, { pieceGrams: 6, pieceName: 'cloves' }),
  },
  { key: 'ginger', name: 'Ginger', kind: 'flavouring', water: 0.8, details: spice(6) },
  {
    key: 'soy',
    name: 'Soy sauce',
    kind: 'flavouring',
    water: 0.67,
    salt: 0.17,
    allergens: ['soy', 'gluten'],
    details: spice(5.5, { gramsPerMl: 1.17, keepsOpenedDays: 60, contents: 'water, soybeans, wheat, salt' }),
  },
  { key: 'dill', name: 'Dill seed', kind: 'flavouring', water: 0.08, details: spice(16) },
  {
    key: 'nigella',
    name: 'Nigella seed',
    kind: 'flavouring',
    water: 0.06,
    details: spice(14, { mayContain: ['sesame', 'mustard'] }),
  },
  {
    key: 'leaf',
    name: 'Cover leaf',
    kind: 'flavouring',
    water: 0.9,
    details: spice(2, { pieceGrams: 20, pieceName: 'leaves' }),
  },
  {
    key: 'vinegar',
    name: 'Cider vinegar, 5 %',
    kind: 'flavouring',
    water: 0.94,
    details: spice(2.8, { gramsPerMl: 1.01, standsFor: 'vinegar' }),
  },
  { key: 'gum', name: 'Thickener, vegetable gum', kind: 'flavouring', water: 0.1, details: spice(38) },
  { key: 'firming', name: 'Firming salt', kind: 'flavouring', water: 0, details: spice(9) },
  { key: 'kept', name: 'Kept brine', kind: 'starter', water: 0.95, salt: 0.03, details: { standsFor: 'keptBrine' } },
  {
    key: 'culture',
    name: 'Culture, bought',
    kind: 'starter',
    water: 0.05,
    caution: 'Wake it in cool water without chlorine; the water thins the salt.',
    details: { costPerKg: 900, mayContain: ['milk'] },
  },
  { key: 'jars', name: 'Jars 330 mL', kind: 'packaging', water: 0, details: { lowStockGrams: 300 } },
  { key: 'lids', name: 'Twist lids 63 mm', kind: 'packaging', water: 0, details: { lowStockGrams: 600 } },
  { key: 'labels', name: 'Blank labels, roll', kind: 'packaging', water: 0 },
];
