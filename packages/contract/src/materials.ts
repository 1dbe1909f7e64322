import { DOOR_ASKS, FORM_KEYS, GRAIN_KEYS, MATERIAL_KINDS, PRODUCE_GROUPS, STANDS_FOR_KEYS } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, fraction, grams, id, text } from './shape.js';

export { MATERIAL_KINDS };

/** What a house knows of a material beyond its water and salt; each one may be unknown. */
export const materialDetails = z.strictObject({
  group: z.enum(PRODUCE_GROUPS).nullish(),
  /** What it stands for in the house's own work. */
  standsFor: z.enum(STANDS_FOR_KEYS).nullish(),
  form: z.enum(FORM_KEYS).nullish(),
  /** True density: what it displaces. */
  gramsPerMl: z.number().min(0.05).max(3).nullish(),
  trimYield: fraction.gt(0).max(1).nullish(),
  pieceGrams: grams.positive().max(50_000).nullish(),
  pieceName: text(40).nullish(),
  mayContain: z.array(text(40)).max(14).optional(),
  /** Said by a person not to be in it, although its name speaks of it. */
  notAllergens: z.array(text(40)).max(14).optional(),
  /** vegan, honey, milk, fish ... */
  diet: z.array(text(30)).max(8).optional(),
  /** Brings a red of its own: a red brine or a pink piece is its colour. */
  red: z.boolean().optional(),
  /** Contents of a bought compound, from its label. */
  contents: text(500).nullish(),
  costPerKg: z.number().min(0).max(100_000).nullish(),
  sugarPerKg: z.number().min(0).max(1000).nullish(),
  grain: z.enum(GRAIN_KEYS).nullish(),
  purity: fraction.min(0.5).max(1).nullish(),
  iodised: z.boolean().optional(),
  antiCaking: z.boolean().optional(),
  gramsPer15Ml: grams.min(2).max(40).nullish(),
  /** Weighed in this house, not taken from a table. */
  spoonWeighed: z.boolean().optional(),
  /** Under this on hand it is marked low. */
  lowStockGrams: grams.min(0).max(2_000_000).nullish(),
  /** Days an opened one keeps. */
  keepsOpenedDays: z.int().min(0).max(2000).nullish(),
  /** What is asked of it when it comes in. */
  atDoor: z.array(z.enum(DOOR_ASKS)).max(3).optional(),
  /** Of water: filtered, boiled and cooled. */
  treatment: text(200).nullish(),
});

const materialBody = z.strictObject({
  materialId: id,
  name: text(120),
  kind: z.enum(MATERIAL_KINDS),
  waterFraction: fraction.min(0).max(1),
  saltFraction: fraction.min(0).max(1),
  allergens: z.array(text(40)).max(14),
  /** Something to mind at the bench, such as an anti-caking agent. */
  caution: text(300).nullable(),
  details: materialDetails.optional(),
});

export const materialAdd = entryOf('material.add', materialBody);

/** What is known now; what was computed before keeps what was known then. */
export const materialChange = entryOf('material.change', materialBody);
