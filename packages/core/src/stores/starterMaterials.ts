import type { Grain } from '../salt/spoons.js';
import type { Form } from '../vessels/forms.js';

/** A common material with the figures tables usually give. A house weighs and measures its own. */
export interface StarterMaterial {
  readonly name: string;
  readonly kind: 'produce' | 'salt' | 'water' | 'flavouring' | 'starter' | 'packaging';
  readonly waterFraction: number;
  readonly saltFraction: number;
  readonly allergens: readonly string[];
  readonly caution: string | null;
  readonly details: {
    readonly group?: 'vegetable' | 'fruit';
    readonly form?: Form;
    readonly trimYield?: number;
    readonly grain?: Grain;
    readonly purity?: number;
    readonly gramsPer15Ml?: number;
    readonly standsFor?: 'vinegar' | 'sweet' | 'oil' | 'keptBrine' | 'thickener';
    readonly gramsPerMl?: number;
    readonly sugarPerKg?: number;
    readonly red?: boolean;
  };
}

type More = Partial<Pick<StarterMaterial, 'allergens' | 'caution'>> & StarterMaterial['details'];

function material(
  kind: StarterMaterial['kind'],
  name: string,
  waterFraction: number,
  { allergens = [], caution = null, ...details }: More = {},
  saltFraction = 0,
): StarterMaterial {
  return { name, kind, waterFraction, saltFraction, allergens, caution, details };
}

const vegetable = (name: string, water: number, form: Form, trimYield: number, more: More = {}): StarterMaterial =>
  material('produce', name, water, { group: 'vegetable', form, trimYield, ...more });
const fruit = (name: string, water: number, trimYield: number, sugarPerKg: number, more: More = {}): StarterMaterial =>
  material('produce', name, water, { group: 'fruit', form: 'wholeSmall', trimYield, sugarPerKg, ...more });
const spice = (name: string, water = 0.1, more: More = {}): StarterMaterial =>
  material('flavouring', name, water, more);
const herb = (name: string): StarterMaterial => spice(name, 0.85);

/**
 * What small fermenting houses commonly have, as a beginning: usual water, trim and spoon figures, allergens. Nothing of
 * it is anybody's brand, and every figure is only usual.
 */
export const STARTER_MATERIALS: readonly StarterMaterial[] = [
  material('salt', 'Sea salt, fine', 0, { grain: 'fine', purity: 0.98 }, 1),
  material('salt', 'Sea salt, coarse', 0, { grain: 'coarse', purity: 0.97 }, 1),
  material('salt', 'Rock salt', 0, { grain: 'coarse', purity: 0.99 }, 1),
  material('salt', 'Salt, flakes', 0, { grain: 'flake', purity: 0.97 }, 1),
  material('water', 'Tap water', 1),
  material('water', 'Water, boiled and cooled', 1),
  vegetable('White cabbage', 0.92, 'shred', 0.8),
  vegetable('Red cabbage', 0.9, 'shred', 0.8, { red: true }),
  vegetable('Chinese cabbage', 0.95, 'leaf', 0.85),
  vegetable('Kohlrabi', 0.91, 'shred', 0.78),
  vegetable('Carrots', 0.88, 'sticks', 0.83),
  vegetable('Beetroot', 0.87, 'wholeSmall', 0.8, { red: true }),
  vegetable('Celeriac', 0.88, 'shred', 0.74, { allergens: ['celery'] }),
  vegetable('Celery', 0.95, 'wholeSmall', 0.85, { allergens: ['celery'] }),
  vegetable('Turnips', 0.92, 'wholeSmall', 0.81),
  vegetable('Swede', 0.89, 'shred', 0.82),
  vegetable('Parsnips', 0.8, 'shred', 0.8),
  vegetable('Radishes', 0.95, 'wholeSmall', 0.85),
  vegetable('White radish', 0.94, 'shred', 0.85),
  vegetable('Cucumbers, small', 0.96, 'wholeSmall', 0.97),
  vegetable('Courgettes', 0.94, 'wholeSmall', 0.95),
  vegetable('Green beans', 0.9, 'wholeSmall', 0.92, { caution: 'Raw beans are not eaten raw: blanch them first.' }),
  vegetable('Cauliflower', 0.92, 'wholeSmall', 0.65),
  vegetable('Peppers', 0.92, 'wholeSmall', 0.82),
  vegetable('Chillies, fresh', 0.88, 'mash', 0.9, { caution: 'Gloves, and mind your eyes.' }),
  vegetable('Tomatoes, green', 0.93, 'wholeSmall', 0.95),
  vegetable('Onions', 0.89, 'wholeSmall', 0.88),
  vegetable('Garlic', 0.6, 'cloves', 0.8, { caution: 'Never kept under oil here.' }),
  vegetable('Leek', 0.9, 'shred', 0.75),
  vegetable('Kale', 0.86, 'leaf', 0.7),
  vegetable('Mustard greens', 0.92, 'leaf', 0.8, { allergens: ['mustard'] }),
  fruit('Lemons', 0.88, 0.98, 25),
  fruit('Plums', 0.85, 0.92, 100),
  fruit('Gooseberries', 0.88, 0.95, 80),
  fruit('Blueberries', 0.84, 0.98, 100),
  fruit('Apples', 0.86, 0.85, 105),
  fruit('Pears', 0.84, 0.85, 98),
  spice('Black pepper'),
  spice('Juniper berries', 0.15),
  spice('Caraway seed'),
  spice('Coriander seed'),
  spice('Mustard seed', 0.06, { allergens: ['mustard'] }),
  spice('Dill seed'),
  spice('Fennel seed'),
  spice('Allspice'),
  spice('Bay leaves'),
  spice('Chilli flakes', 0.08),
  spice('Paprika', 0.1, { red: true }),
  spice('Turmeric, ground'),
  spice('Sesame seed', 0.05, { allergens: ['sesame'] }),
  spice('Ginger', 0.79),
  spice('Horseradish', 0.75),
  herb('Dill'),
  herb('Thyme'),
  herb('Lovage'),
  herb('Tarragon'),
  spice('Sugar', 0, { standsFor: 'sweet', sugarPerKg: 1000 }),
  spice('Honey', 0.18, {
    standsFor: 'sweet',
    sugarPerKg: 790,
    gramsPerMl: 1.42,
    caution: 'Not for children under one year.',
  }),
  spice('Wine vinegar, 6 %', 0.94, { standsFor: 'vinegar', gramsPerMl: 1.01 }),
  spice('Oil', 0, { standsFor: 'oil', gramsPerMl: 0.92 }),
  material('starter', 'Kept brine', 0.95, { standsFor: 'keptBrine' }, 0.03),
  material('packaging', 'Jars', 0),
  material('packaging', 'Lids', 0),
  material('packaging', 'Labels', 0),
];
