import { waterPhaseSalt, type WaterPhasePart } from './waterPhase.js';

/**
 * A vegetable that joins after the salt was computed: the second dose, and the water phase without it.
 * Dry salting (`ofVegetable`). Source: handbook 7, worked case W7.
 */
export function lateIngredient(input: {
  saltFraction: number;
  saltGrams: number;
  parts: readonly WaterPhasePart[];
  late: WaterPhasePart;
}): {
  secondDoseGrams: number;
  before: number;
  withoutDose: number;
} {
  return {
    secondDoseGrams: input.saltFraction * input.late.grams,
    before: waterPhaseSalt({ saltGrams: input.saltGrams, parts: input.parts }),
    withoutDose: waterPhaseSalt({ saltGrams: input.saltGrams, parts: [...input.parts, input.late] }),
  };
}
