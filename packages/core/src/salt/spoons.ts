import { WATER_GRAMS_PER_ML } from '../brine/density.js';
import { KITCHEN_UNITS, NATIONALITIES, type Nationality } from '../units/measures.js';

/** Grains of salt and what a 15 mL spoon of each weighs, g. Typical; a spoon weighed in the house replaces it. Source: handbook 2.1, 8.4. */
export const GRAINS = {
  fine: { words: 'fine sea or table', gramsPer15Ml: 17.5 },
  coarse: { words: 'coarse, dense', gramsPer15Ml: 15 },
  rock: { words: 'rock, ground', gramsPer15Ml: 16 },
  flake: { words: 'flake', gramsPer15Ml: 9.5 },
} as const;
export type Grain = keyof typeof GRAINS;
export const GRAIN_KEYS = Object.keys(GRAINS) as [Grain, ...Grain[]];

/** What filling and heaping a spoon makes of it, either way. Source: handbook 2.1. */
export const SPOON_SPREAD = 0.15;

/** Grams of salt in spoons of so many mL. `spoonGrams({ spoons: 7, spoonMl: 14.787, gramsPer15Ml: 17.5 }) //=> 120.76…` */
export const spoonGrams = (input: { spoons: number; spoonMl: number; gramsPer15Ml: number }): number =>
  (input.spoons * input.spoonMl * input.gramsPer15Ml) / 15;

/** The other way round: spoons that a mass of salt makes. */
export const spoonsOf = (input: { grams: number; spoonMl: number; gramsPer15Ml: number }): number =>
  (input.grams * 15) / (input.spoonMl * input.gramsPer15Ml);

export interface KitchenBrine {
  readonly saltAmount: number;
  readonly saltUnit: string;
  readonly waterAmount: number;
  readonly waterUnit: string;
}

export interface KitchenReading {
  readonly nationality: Nationality;
  readonly grain: Grain | 'weighed';
  readonly saltGrams: number;
  readonly waterGrams: number;
  /** Salt of the water, a fraction. */
  readonly ofWater: number;
}

/**
 * Every way a brine of spoons and kitchen measures can be meant: one reading for each nationality that has
 * both measures and each grain. With nation and grain known it is a single one. Source: handbook 2.1, W2.
 * @example kitchenBrine({ brine: { saltAmount: 7, saltUnit: 'tbsp', waterAmount: 3, waterUnit: 'qt' }, nationality: 'us', grain: 'fine' })[0].ofWater //=> 0.0426…
 */
export function kitchenBrine(input: {
  brine: KitchenBrine;
  nationality?: Nationality | null;
  grain?: Grain | null;
  gramsPer15Ml?: number | null;
}): KitchenReading[] {
  const { brine, nationality, grain, gramsPer15Ml } = input;
  const nations = nationality ? [nationality] : NATIONALITIES;
  const grains: [Grain | 'weighed', number][] = gramsPer15Ml
    ? [['weighed', gramsPer15Ml]]
    : (grain ? [grain] : GRAIN_KEYS).map((key) => [key, GRAINS[key].gramsPer15Ml]);
  return nations.flatMap((nation) => {
    const spoonMl = KITCHEN_UNITS[brine.saltUnit]?.[nation];
    const waterMl = KITCHEN_UNITS[brine.waterUnit]?.[nation];
    if (spoonMl === undefined || waterMl === undefined) return [];
    return grains.map(([key, grams]): KitchenReading => {
      const saltGrams = spoonGrams({ spoons: brine.saltAmount, spoonMl, gramsPer15Ml: grams });
      const waterGrams = brine.waterAmount * waterMl * WATER_GRAMS_PER_ML;
      return { nationality: nation, grain: key, saltGrams, waterGrams, ofWater: saltGrams / waterGrams };
    });
  });
}
