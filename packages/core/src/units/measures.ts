/** What a unit measures, and its size in the base unit (gram, millilitre). */
export interface UnitSize {
  readonly measures: 'mass' | 'volume';
  readonly inBase: number;
  readonly label: string;
}

/** Nations whose kitchen measures differ under one name. Source: handbook 2.1. */
export const NATIONALITIES = ['us', 'metric', 'imperial', 'australian'] as const;
export type Nationality = (typeof NATIONALITIES)[number];

const mass = (inBase: number, label: string): UnitSize => ({ measures: 'mass', inBase, label });
const volume = (inBase: number, label: string): UnitSize => ({ measures: 'volume', inBase, label });

/** Units that mean the same everywhere. */
export const PLAIN_UNITS: Readonly<Record<string, UnitSize>> = {
  mg: mass(0.001, 'mg'),
  g: mass(1, 'g'),
  kg: mass(1000, 'kg'),
  t: mass(1_000_000, 't'),
  oz: mass(28.349523125, 'oz'),
  lb: mass(453.59237, 'lb'),
  ml: volume(1, 'mL'),
  cl: volume(10, 'cL'),
  dl: volume(100, 'dL'),
  l: volume(1000, 'L'),
};

/** Kitchen measures in millilitres, by nationality. A metric pint, quart or gallon does not exist; Australia's were the imperial ones. */
export const KITCHEN_UNITS: Readonly<Record<string, Partial<Record<Nationality, number>>>> = {
  tsp: { us: 4.93, metric: 5, imperial: 5.92, australian: 5 },
  tbsp: { us: 14.787, metric: 15, imperial: 17.758, australian: 20 },
  floz: { us: 29.574, imperial: 28.413 },
  cup: { us: 236.588, metric: 250, imperial: 284.131, australian: 250 },
  pt: { us: 473.176, imperial: 568.261, australian: 568.261 },
  qt: { us: 946.353, imperial: 1136.523, australian: 1136.523 },
  gal: { us: 3785.412, imperial: 4546.09, australian: 4546.09 },
};

const ALIASES: Readonly<Record<string, string>> = {
  gram: 'g',
  grams: 'g',
  gr: 'g',
  gms: 'g',
  gm: 'g',
  gramme: 'g',
  grammes: 'g',
  kilogramme: 'kg',
  kilogrammes: 'kg',
  kgs: 'kg',
  kilo: 'kg',
  kilos: 'kg',
  kilogram: 'kg',
  kilograms: 'kg',
  ounce: 'oz',
  ounces: 'oz',
  pound: 'lb',
  pounds: 'lb',
  lbs: 'lb',
  tonne: 't',
  tonnes: 't',
  millilitre: 'ml',
  millilitres: 'ml',
  milliliter: 'ml',
  milliliters: 'ml',
  litre: 'l',
  litres: 'l',
  liter: 'l',
  liters: 'l',
  ltr: 'l',
  teaspoon: 'tsp',
  teaspoons: 'tsp',
  tablespoon: 'tbsp',
  tablespoons: 'tbsp',
  tbs: 'tbsp',
  tbl: 'tbsp',
  tbsps: 'tbsp',
  tsps: 'tsp',
  cups: 'cup',
  pint: 'pt',
  pints: 'pt',
  quart: 'qt',
  quarts: 'qt',
  qts: 'qt',
  gals: 'gal',
  gallon: 'gal',
  gallons: 'gal',
  'fl.oz': 'floz',
  'fl oz': 'floz',
  // As kitchens elsewhere write them.
  gramm: 'g',
  kilogramm: 'kg',
  el: 'tbsp',
  essl: 'tbsp',
  esslöffel: 'tbsp',
  tl: 'tsp',
  teel: 'tsp',
  teelöffel: 'tsp',
  tasse: 'cup',
  tassen: 'cup',
};

/** One of a kitchen measure, in full: `KITCHEN_NAMES.qt //=> 'quart'`. */
export const KITCHEN_NAMES: Readonly<Record<string, string>> = {
  tsp: 'teaspoon',
  tbsp: 'tablespoon',
  floz: 'fluid ounce',
  cup: 'cup',
  pt: 'pint',
  qt: 'quart',
  gal: 'gallon',
};

/** The key of a unit as people write it, or undefined: `unitKey('Pounds') //=> 'lb'`. */
export function unitKey(text: string): string | undefined {
  const lower = text.trim().toLowerCase().replace(/\.$/, '');
  const key = Object.hasOwn(ALIASES, lower) ? ALIASES[lower]! : lower;
  return Object.hasOwn(PLAIN_UNITS, key) || Object.hasOwn(KITCHEN_UNITS, key) ? key : undefined;
}

/** What a kitchen measure can be: `spreadWords('quart') //=> 'A quart is 946.4 to 1136.5 mL, by country.'` */
export function spreadWords(unit: string): string {
  const key = unitKey(unit) ?? '';
  const sizes = Object.values(KITCHEN_UNITS[key] ?? {});
  const one = (ml: number): string => String(Math.round(ml * 10) / 10);
  return `A ${KITCHEN_NAMES[key] ?? unit} is ${one(Math.min(...sizes))} to ${one(Math.max(...sizes))} mL, by country.`;
}
