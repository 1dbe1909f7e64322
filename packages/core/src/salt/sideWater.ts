import { saltToReach, waterPhase, waterPhaseSalt, type WaterPhasePart } from './waterPhase.js';

/**
 * Water that comes in by a side door (a culture's wake-up cup, a porridge, rinsed leaves, a frozen
 * ingredient): what it does to the water phase, and the salt that holds it. Source: handbook 7, worked case W6.
 * @example sideWater({ saltGrams: 264, parts: [{ grams: 12000, waterFraction: 0.92 }], joins: { grams: 300, waterFraction: 1 } }).holdGrams //=> 7.2…
 */
export function sideWater(input: { saltGrams: number; parts: readonly WaterPhasePart[]; joins: WaterPhasePart }): {
  before: number;
  after: number;
  holdGrams: number;
} {
  const before = waterPhaseSalt(input);
  const joined = waterPhase({ saltGrams: input.saltGrams, parts: [...input.parts, input.joins] });
  return {
    before,
    after: joined.salt / (joined.salt + joined.water),
    holdGrams: saltToReach({ saltGrams: joined.salt, waterGrams: joined.water, waterPhaseSalt: before }),
  };
}
