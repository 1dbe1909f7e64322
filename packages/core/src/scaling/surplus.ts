import type { JarOrder } from './yieldChain.js';

/** Jars rounded up to whole cases, and how many that is more than asked for. Source: handbook 2.5. */
export function wholeCases(jars: readonly (JarOrder & { readonly perCase: number })[]): {
  jars: JarOrder[];
  surplus: { sizeMl: number; count: number }[];
} {
  const rounded = jars.map(({ sizeMl, count, fillGrams, perCase }) => ({
    sizeMl,
    fillGrams,
    count: perCase > 1 ? Math.ceil(count / perCase) * perCase : count,
  }));
  return {
    jars: rounded,
    surplus: rounded
      .map((jar, index) => ({ sizeMl: jar.sizeMl, count: jar.count - jars[index]!.count }))
      .filter(({ count }) => count > 0),
  };
}

/** Whole heads to buy, and the trimmed mass that they bring beyond what is needed. */
export function wholeHeads(input: { boughtGrams: number; pieceGrams: number; trimYield: number }): {
  heads: number;
  boughtGrams: number;
  surplusTrimmedGrams: number;
} {
  if (!(input.pieceGrams > 0)) throw new RangeError('a head weighs more than nothing');
  const heads = Math.ceil(input.boughtGrams / input.pieceGrams - 1e-9);
  const boughtGrams = heads * input.pieceGrams;
  return { heads, boughtGrams, surplusTrimmedGrams: (boughtGrams - input.boughtGrams) * input.trimYield };
}
