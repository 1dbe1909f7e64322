import {
  checkSaltFraction,
  type DecimalMark,
  type Grain,
  GRAIN_KEYS,
  GRAINS,
  kitchenBrine,
  type Nationality,
  parseNumber,
  readAmount,
  type SaltBasis,
  spoonGrams,
  unitKey,
} from '@clear-tally/core';

export interface SaltAsTyped {
  readonly text: string;
  readonly basis: SaltBasis | null;
  readonly saltName: string;
  /** What the house knows of this salt. */
  readonly grain: Grain | null;
  readonly gramsPer15Ml: number | null;
  readonly waterText: string;
  readonly produceGrams: number | null;
  readonly waterPerProduce: number | null;
  readonly nationality: Nationality | null;
  readonly decimalMark?: DecimalMark;
}
export interface SaltRead {
  readonly fraction: number | null;
  readonly say: string | null;
  readonly problem: string | null;
}

const open = (problem: string | null): SaltRead => ({ fraction: null, say: null, problem });

/** Salt as a share, a mass or spoons, for the recipe as written; with what it can mean while it is not settled. */
export function readSalt(input: SaltAsTyped): SaltRead {
  const text = input.text.trim();
  if (text === '') return open(null);
  const percent = /^([\d.,\s]+?)\s*(%|per ?cent)?$/i.exec(text);
  const read = percent ? share(percent[1]!, input.decimalMark) : amountOf(input, text);
  if (read.fraction === null) return read;
  if (input.basis === null) return open('Of what? Choose what the salt is counted on.');
  const checked = checkSaltFraction({ basis: input.basis, saltFraction: read.fraction });
  if (!checked.ok) return open(checked.refusal.message);
  return {
    fraction: read.fraction,
    say: percent ? null : `= ${Number((read.fraction * 100).toPrecision(4))} %`,
    problem: null,
  };
}

function share(text: string, decimalMark: DecimalMark | undefined): SaltRead {
  const number = parseNumber({ text, decimalMark });
  return number.ok ? { fraction: number.value / 100, say: null, problem: null } : open(number.refusal.message);
}

function amountOf(input: SaltAsTyped, text: string): SaltRead {
  const amount = readAmount({ text, nationality: input.nationality, decimalMark: input.decimalMark });
  if (!amount.ok) return open(amount.refusal.message);
  let grams = amount.value.least;
  if (amount.value.measures === 'volume') {
    const grain = input.grain ?? grainIn(input.saltName);
    const per15 = input.gramsPer15Ml ?? (grain ? GRAINS[grain].gramsPer15Ml : null);
    if (per15 === null || amount.value.most - amount.value.least > 1e-6) return open(spread(input, text));
    grams = spoonGrams({ spoons: 1, spoonMl: amount.value.least, gramsPer15Ml: per15 });
  } else if (amount.value.measures !== 'mass')
    return open('Salt is weighed: type grams, or spoons of a salt the house has weighed.');
  const { basis, produceGrams, waterPerProduce } = input;
  if (basis === null) return open('Of what? Choose what the salt is counted on.');
  if (basis !== 'ofVegetable' && waterPerProduce === null) return open('Say first how much water.');
  if (produceGrams === null) return open('Say first how much produce.');
  const water = (waterPerProduce ?? 0) * produceGrams;
  return {
    fraction: basis === 'ofSolution' ? grams / (grams + water) : grams / saltBase(basis, produceGrams, water),
    say: null,
    problem: null,
  };
}

/** "2.3 to 4.8 % of the water": what spoons of an unknown nation and grain can mean. */
function spread(input: SaltAsTyped, text: string): string {
  const salt = readAmount({ text, decimalMark: input.decimalMark });
  const water = readAmount({ text: input.waterText, decimalMark: input.decimalMark });
  const grain = input.grain ?? grainIn(input.saltName);
  const missing = [
    input.nationality === null ? 'whose measures these are' : null,
    input.gramsPer15Ml || grain ? null : 'which salt it is',
  ]
    .filter(Boolean)
    .join(' and ');
  const ask = `Say ${missing}, or weigh it. A spoon differs by 15 % either way even then.`;
  const any = `A spoon of salt weighs 9 to 18 g, by grain. ${ask}`;
  if (
    !salt.ok ||
    !water.ok ||
    salt.value.measures !== 'volume' ||
    water.value.measures !== 'volume' ||
    salt.value.terms.length > 1 ||
    water.value.terms.length > 1
  )
    return any;
  const all = kitchenBrine({
    brine: {
      saltAmount: salt.value.count,
      saltUnit: unitKey(salt.value.unit) ?? '',
      waterAmount: water.value.count,
      waterUnit: unitKey(water.value.unit) ?? '',
    },
    nationality: input.nationality,
    grain,
    gramsPer15Ml: input.gramsPer15Ml,
  }).map(({ ofWater }) => ofWater * 100);
  return all.length === 0
    ? any
    : `This can mean ${Math.min(...all).toFixed(1)} to ${Math.max(...all).toFixed(1)} % of the water. ${ask}`;
}

/** "fine sea salt", "flake salt": a recipe that names the grain has said it. */
export function grainIn(name: string): Grain | null {
  return GRAIN_KEYS.find((grain) => new RegExp(`\\b${grain}s?\\b`, 'i').test(name)) ?? null;
}

/** The mass that a basis counts on. */
export const saltBase = (basis: SaltBasis, vegetable: number, water: number): number =>
  ({ ofVegetable: vegetable, ofWater: water, ofSolution: water, ofEverything: vegetable + water })[basis];
