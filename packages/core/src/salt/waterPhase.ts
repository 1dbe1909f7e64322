/** Something that brings water, salt or both. Fractions of its own mass. */
export interface WaterPhasePart {
  readonly grams: number;
  readonly waterFraction: number;
  readonly saltFraction?: number;
}

/** Water fraction of a vegetable when its material does not say. Source: handbook 2.1. */
export const DEFAULT_WATER_FRACTION = 0.92;

/**
 * Salt in the water phase once it has evened out, a fraction: S / (S + all water).
 * Produce, added water, culture water, paste, kept brine: each is a part. Source: handbook 2.1.
 * @throws {RangeError} a negative mass
 * @example
 * waterPhaseSalt({ saltGrams: 150, parts: [{ grams: 4000, waterFraction: 0.92 }, { grams: 3000, waterFraction: 1 }] }); //=> 0.02196…
 */
export function waterPhaseSalt(input: { saltGrams: number; parts: readonly WaterPhasePart[] }): number {
  const { salt, water } = waterPhase(input);
  return salt + water === 0 ? 0 : salt / (salt + water);
}

/** Grams of salt and water in the water phase. */
export function waterPhase(input: { saltGrams: number; parts: readonly WaterPhasePart[] }): {
  salt: number;
  water: number;
} {
  let salt = input.saltGrams;
  let water = 0;
  for (const part of input.parts) {
    if (part.grams < 0) throw new RangeError('a part of the water phase cannot have a negative mass');
    salt += part.grams * (part.saltFraction ?? 0);
    water += part.grams * part.waterFraction;
  }
  if (salt < 0) throw new RangeError('salt cannot be negative');
  return { salt, water };
}

/**
 * Grams of salt that bring a water phase to a wanted strength; negative when there is too much already.
 * @example saltToReach({ saltGrams: 264, waterGrams: 11340, waterPhaseSalt: 0.02335 }) //=> about 7.2
 */
export function saltToReach(input: { saltGrams: number; waterGrams: number; waterPhaseSalt: number }): number {
  const { saltGrams: s, waterGrams: w, waterPhaseSalt: c } = input;
  if (!(c >= 0 && c < 0.27)) throw new RangeError(`a water-phase salt lies in [0, 0.27); ${c} was given`);
  return (c * (s + w) - s) / (1 - c);
}
