import { accept, refuse, type Outcome } from '../refusal.js';

/** The four meanings of "per cent salt". Source: handbook 2.1. */
export const SALT_BASES = ['ofVegetable', 'ofWater', 'ofSolution', 'ofEverything'] as const;
export type SaltBasis = (typeof SALT_BASES)[number];

export interface SaltInput {
  readonly basis: SaltBasis;
  readonly vegetableGrams: number;
  readonly waterGrams: number;
  /** A fraction: 0.025, never 2.5. */
  readonly saltFraction: number;
}

/**
 * Grams of salt for a trimmed vegetable mass and added water, by the house's meaning of "per cent".
 *
 * - `ofVegetable`: salt / vegetable
 * - `ofWater`: salt / water
 * - `ofSolution`: salt / (salt + water)
 * - `ofEverything`: salt / (vegetable + water)
 *
 * The result is not rounded. Source: handbook 2.1.
 * @throws {RangeError} a mass negative or not finite; a fraction outside [0, 0.35]
 * @example
 * saltGrams({ basis: 'ofEverything', vegetableGrams: 4000, waterGrams: 3000, saltFraction: 0.026 }); //=> 182
 */
export function saltGrams(input: SaltInput): number {
  const { vegetableGrams: v, waterGrams: w, saltFraction: p } = input;
  if (!(v >= 0 && Number.isFinite(v)) || !(w >= 0 && Number.isFinite(w)))
    throw new RangeError('masses must be finite and not negative');
  if (!(p >= 0 && p <= 0.35)) throw new RangeError(`a salt fraction lies in [0, 0.35]; ${p} was given`);
  switch (input.basis) {
    case 'ofVegetable':
      return p * v;
    case 'ofWater':
      return p * w;
    case 'ofSolution':
      return (w * p) / (1 - p);
    case 'ofEverything':
      return p * (v + w);
  }
}

/** What one salt mass is on every basis, and on the total mass. Fractions; null where the divisor is zero. */
export function saltOnAllBases(input: {
  vegetableGrams: number;
  waterGrams: number;
  saltGrams: number;
}): Record<SaltBasis | 'ofTotal', number | null> {
  const { vegetableGrams: v, waterGrams: w, saltGrams: s } = input;
  const over = (divisor: number): number | null => (divisor > 0 ? s / divisor : null);
  return {
    ofVegetable: over(v),
    ofWater: over(w),
    ofSolution: w > 0 ? over(s + w) : null,
    ofEverything: over(v + w),
    ofTotal: over(s + v + w),
  };
}

/** Saturation: no brine is stronger. Source: handbook 2.8. */
const MOST: Record<SaltBasis, number> = { ofVegetable: 0.15, ofWater: 0.35, ofSolution: 0.26, ofEverything: 0.15 };

/** Refuses a percentage typed where a fraction belongs, and a brine beyond saturation. */
export function checkSaltFraction(input: { basis: SaltBasis; saltFraction: number; field?: string }): Outcome<number> {
  const { basis, saltFraction, field = 'saltFraction' } = input;
  const most = MOST[basis];
  if (!(saltFraction > 0 && saltFraction <= most)) {
    const hint =
      saltFraction > most && saltFraction / 100 <= most
        ? ` ${saltFraction} % is the fraction ${saltFraction / 100}.`
        : '';
    return refuse(
      'fraction.percentTyped',
      `${saltFraction} was given as salt fraction. For this basis a fraction above 0 and up to ${most} (${most * 100} %) is accepted.${hint}`,
      {
        field,
        facts: { given: saltFraction, most },
      },
    );
  }
  return accept(saltFraction);
}
