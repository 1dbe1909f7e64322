/** Nominal grams up to which a tolerable error holds: grams, or a share of the nominal. */
const TOLERABLE: readonly { readonly upTo: number; readonly grams?: number; readonly share?: number }[] = [
  { upTo: 50, share: 0.09 },
  { upTo: 100, grams: 4.5 },
  { upTo: 200, share: 0.045 },
  { upTo: 300, grams: 9 },
  { upTo: 500, share: 0.03 },
  { upTo: 1000, grams: 15 },
  { upTo: 10_000, share: 0.015 },
  { upTo: 15_000, grams: 150 },
  { upTo: Infinity, share: 0.01 },
];

/**
 * The tolerable negative error of one package under the average-weight rule, grams. A help: local law decides.
 * Source: handbook 4.4.
 * @throws {RangeError} a net mass not above nought
 * @example tolerableError(320) //=> 9.6
 */
export function tolerableError(netGrams: number): number {
  if (!(netGrams > 0)) throw new RangeError('a jar holds more than nothing');
  const { grams, share } = TOLERABLE.find(({ upTo }) => netGrams <= upTo)!;
  return grams ?? netGrams * share!;
}

export interface FillWeights {
  readonly n: number;
  readonly mean: number;
  /** Standard deviation of the sample; 0 for one. */
  readonly spread: number;
  readonly least: number;
  readonly tolerable: number;
  /** Jars short by more than the tolerable error, and by more than twice of it. */
  readonly short: number;
  readonly farShort: number;
  /** `fine`: on average what the label says, and none short; `light`: some short, one in forty at most may be; `short`: not as labelled. */
  readonly says: 'fine' | 'light' | 'short';
}

/** One in forty may be short by more than the tolerable error. */
const MAY_BE_SHORT = 0.025;

/**
 * What sampled fill weights say of the net mass on the label: mean, spread, and the average-weight rule.
 * @throws {RangeError} no sample, or a weight that is no number
 * @example fillWeights({ netGrams: 320, sampled: [318, 322, 321] }).says //=> 'fine'
 */
export function fillWeights(input: { readonly netGrams: number; readonly sampled: readonly number[] }): FillWeights {
  const { netGrams, sampled } = input;
  if (sampled.length === 0 || !sampled.every(Number.isFinite)) throw new RangeError('one jar at least is weighed');
  const tolerable = tolerableError(netGrams);
  const n = sampled.length;
  const mean = sampled.reduce((sum, one) => sum + one, 0) / n;
  const spread = n < 2 ? 0 : Math.sqrt(sampled.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (n - 1));
  const short = sampled.filter((one) => one < netGrams - tolerable - 1e-9).length;
  const farShort = sampled.filter((one) => one < netGrams - 2 * tolerable - 1e-9).length;
  const says =
    farShort > 0 || mean < netGrams - 1e-9 || short > n * MAY_BE_SHORT ? 'short' : short > 0 ? 'light' : 'fine';
  return { n, mean, spread, least: Math.min(...sampled), tolerable, short, farShort, says };
}

export interface NumberedLots {
  readonly lotId: string;
  readonly first: number;
  readonly last: number;
}

/**
 * Which jars carry which lot of a closure: lots in the order they were opened, the jars in the order of their serials.
 * More pieces than jars were spoiled.
 * @example lotsBySerial([{ lotId: 'a', count: 30 }, { lotId: 'b', count: 20 }], 40) //=> a: 1 to 30, b: 31 to 40
 */
export function lotsBySerial(lots: readonly { lotId: string; count: number }[], jars: number): NumberedLots[] {
  let next = 1;
  return lots.flatMap(({ lotId, count }): NumberedLots[] => {
    const first = next;
    const last = Math.min(jars, next + count - 1);
    next = last + 1;
    return last >= first ? [{ lotId, first, last }] : [];
  });
}

/**
 * Products in an order in which nothing carries an allergen into the next: none first, then those whose allergens all
 * follow. Of the same number, by name.
 */
export const byAllergens = <T extends { readonly allergens: readonly string[]; readonly name: string }>(
  of: readonly T[],
): T[] => [...of].sort((a, b) => a.allergens.length - b.allergens.length || a.name.localeCompare(b.name, 'en'));
