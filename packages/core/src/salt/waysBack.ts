import { saltGrams, type SaltBasis } from './bases.js';

export interface WaysBack {
  /** Grams of salt still to add, when under. */
  readonly addSaltGrams: number | null;
  /** Grams of trimmed produce that make the salt right again, when over. */
  readonly addProduceGrams: number | null;
  /** Grams of water that make it right, when over and the basis counts water. */
  readonly addWaterGrams: number | null;
}

/**
 * The ways back after the salt is in, with the basis respected. Source: handbook 2.2.
 * In a formula salted on the water or the solution more produce does not change the salt wanted; on the
 * vegetable more water does not: those ways are null.
 * @example waysBack({ basis: 'ofVegetable', saltFraction: 0.022, vegetableGrams: 14600, waterGrams: 0, saltGrams: 342 }).addProduceGrams //=> 945.45…
 */
export function waysBack(input: {
  basis: SaltBasis;
  saltFraction: number;
  vegetableGrams: number;
  waterGrams: number;
  saltGrams: number;
}): WaysBack {
  const { basis, saltFraction: p, vegetableGrams: v, waterGrams: w, saltGrams: s } = input;
  const target = saltGrams(input);
  if (s <= target) return { addSaltGrams: s < target ? target - s : null, addProduceGrams: null, addWaterGrams: null };
  switch (basis) {
    case 'ofVegetable':
      return { addSaltGrams: null, addProduceGrams: s / p - v, addWaterGrams: null };
    case 'ofWater':
      return { addSaltGrams: null, addProduceGrams: null, addWaterGrams: s / p - w };
    case 'ofSolution':
      return { addSaltGrams: null, addProduceGrams: null, addWaterGrams: (s * (1 - p)) / p - w };
    case 'ofEverything': {
      const more = s / p - v - w;
      return { addSaltGrams: null, addProduceGrams: more, addWaterGrams: more };
    }
  }
}
