import { rollUpAllergens, type AllergenLine } from './allergens.js';

/** Grams of sodium per gram of salt. Source: handbook 8.4. */
export const SODIUM_PER_SALT = 0.3934;

/** What a line of a batch brings to the label and the bill. */
export interface RollUpPart {
  readonly name: string;
  readonly grams: number;
  readonly waterFraction: number;
  readonly saltFraction: number;
  readonly allergens: readonly string[];
  readonly mayContain?: readonly string[];
  readonly diet?: readonly string[];
  /** Contents of a bought compound, as its label says. */
  readonly contents?: string | null;
  readonly costPerKg?: number | null;
  /** What is bought for it, when more than goes in (before trimming). */
  readonly boughtGrams?: number;
  readonly isSalt?: boolean;
  readonly isWater?: boolean;
  /** Of a leaf that is salted heavily and rinsed: produce and salt as weighed, most of which goes down the drain. */
  readonly rinsed?: boolean;
}

export interface RollUp {
  readonly totalGrams: number;
  readonly allergens: readonly AllergenLine[];
  /** Descending by weight at mixing, compounds with their contents. */
  readonly statement: readonly {
    readonly name: string;
    readonly share: number;
    readonly contents: string | null;
    readonly marked: boolean;
  }[];
  /** Estimates, g per 100 g. */
  readonly saltPer100: number;
  readonly sodiumPer100: number;
  readonly diet: readonly string[];
  readonly warnings: readonly string[];
  readonly materialCost: number;
  /** Names without a price: the cost is then the least it can be. */
  readonly unpriced: readonly string[];
  readonly labourMinutes: number;
  readonly labourCost: number;
  readonly packagingCost: number;
  readonly jars: number;
  readonly costPerJar: number | null;
}

/**
 * Label and bill of a scaled batch from the same lines. Salt per 100 g is of the mix, before anything drains; of a
 * rinsed leaf it is what was measured or estimated on it after draining (`rinsedTo`), never what was weighed in.
 * `labour` in minutes, costs in the house's currency. Source: handbook 2.3, 2.5.
 * @throws {RangeError} a negative mass
 */
export function rollUp(input: {
  parts: readonly RollUpPart[];
  rinsedTo?: { readonly grams: number; readonly saltGrams: number } | null;
  jars: number;
  packagingPerJar?: number;
  labour?: { fixedMinutes: number; minutesPerKg: number; costPerHour: number };
}): RollUp {
  const { jars, packagingPerJar = 0, labour } = input;
  const bought = input.parts;
  const parts = input.rinsedTo ? afterRinsing(bought, input.rinsedTo) : bought;
  if (bought.some((part) => part.grams < 0)) throw new RangeError('no part of a batch has a negative mass');
  const totalGrams = parts.reduce((sum, part) => sum + part.grams, 0);
  const salt = parts.reduce((sum, part) => sum + part.grams * (part.isSalt ? 1 : part.saltFraction), 0);
  const merged = new Map<string, { grams: number; contents: string | null; marked: boolean }>();
  for (const part of parts) {
    // Two parts of one name stand on one line; that of them which has an allergen marks it.
    const held = merged.get(part.name) ?? { grams: 0, contents: null, marked: false };
    merged.set(part.name, {
      grams: held.grams + part.grams,
      contents: held.contents ?? part.contents ?? null,
      marked: held.marked || part.allergens.length > 0,
    });
  }
  const priced = bought.filter((part) => part.costPerKg != null);
  const materialCost = priced.reduce(
    (sum, part) => sum + ((part.boughtGrams ?? part.grams) / 1000) * part.costPerKg!,
    0,
  );
  const labourMinutes = labour ? labour.fixedMinutes + (labour.minutesPerKg * totalGrams) / 1000 : 0;
  const labourCost = (labourMinutes / 60) * (labour?.costPerHour ?? 0);
  const packagingCost = packagingPerJar * jars;
  const diet = [...new Set(parts.flatMap((part) => part.diet ?? []))].filter(
    (mark) => mark !== 'vegan' || parts.every((part) => part.isSalt || part.isWater || part.diet?.includes('vegan')),
  );
  return {
    totalGrams,
    allergens: rollUpAllergens(parts),
    statement: [...merged]
      .filter(([, { grams }]) => grams > 0)
      .sort(([, a], [, b]) => b.grams - a.grams)
      .map(([name, { grams, contents, marked }]) => ({
        name,
        share: totalGrams > 0 ? grams / totalGrams : 0,
        contents,
        marked,
      })),
    saltPer100: totalGrams > 0 ? (salt / totalGrams) * 100 : 0,
    sodiumPer100: totalGrams > 0 ? (salt / totalGrams) * 100 * SODIUM_PER_SALT : 0,
    diet,
    warnings: diet.includes('honey') ? ['Contains honey: not for infants under 12 months.'] : [],
    materialCost,
    unpriced: [
      ...new Set(
        bought
          .filter((part) => part.costPerKg == null && part.grams > 0 && part.name !== 'Water')
          .map(({ name }) => name),
      ),
    ],
    labourMinutes,
    labourCost,
    packagingCost,
    jars,
    costPerJar: jars > 0 ? (materialCost + labourCost + packagingCost) / jars : null,
  };
}

/** Produce and salt of a rinsed leaf as they stand after draining: so much leaf, with so much salt in it. */
function afterRinsing(
  parts: readonly RollUpPart[],
  to: { readonly grams: number; readonly saltGrams: number },
): RollUpPart[] {
  const weighed = (salt: boolean): number =>
    parts.filter((part) => part.rinsed && !!part.isSalt === salt).reduce((sum, part) => sum + part.grams, 0);
  const [leaf, salt] = [weighed(false), weighed(true)];
  return parts.map((part) => {
    if (!part.rinsed) return part;
    const share = part.isSalt ? (salt > 0 ? to.saltGrams / salt : 0) : leaf > 0 ? (to.grams - to.saltGrams) / leaf : 0;
    return { ...part, grams: part.grams * share, boughtGrams: part.boughtGrams ?? part.grams };
  });
}
