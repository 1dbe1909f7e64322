import { z } from 'zod';
import { entryOf, fraction, grams, id, text, gramsOrNone } from './shape.js';

export const jarOrder = z.strictObject({
  sizeMl: z.int().min(20).max(20_000),
  count: z.int().min(1).max(99_999),
  fillGrams: grams.positive(),
});

export const scaleTarget = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('jars'), jars: z.array(jarOrder).min(1).max(8) }),
  /** `aim` keeps what it was planned from: vessels, bought mass, a stock. */
  z.strictObject({ from: z.literal('trimmed'), trimmedGrams: grams, aim: text(200).optional() }),
]);

export const batchStart = entryOf(
  'batch.start',
  z.strictObject({
    batchId: id,
    formulaId: id,
    version: z.int().min(1),
    plan: scaleTarget,
    weakSaltReason: text(500).optional(),
    variant: text(60).optional(),
    /** Water-phase salt measured on the drained leaf, in place of the estimate. */
    measuredLeafSalt: fraction.min(0).max(0.2).optional(),
  }),
);

/** Produce is weighed after trimming; what was trimmed off is recorded beside it. */
export const produceWeigh = entryOf(
  'produce.weigh',
  z.strictObject({
    batchId: id,
    supplyLotId: id,
    trimmedGrams: grams,
    trimWasteGrams: gramsOrNone,
    tareGrams: gramsOrNone.max(100_000).optional(),
    pastReason: text(300).optional(),
  }),
);

export const brineMake = entryOf(
  'brine.make',
  z.strictObject({ brineLotId: id, batchId: id, waterLotId: id, waterGrams: grams }),
);

export const saltWeigh = entryOf(
  'salt.weigh',
  z.strictObject({
    batchId: id,
    saltLotId: id,
    grams,
    /** It is in already and cannot be taken out: a fact, whatever the target. */
    alreadyIn: z.boolean(),
    tareGrams: gramsOrNone.max(100_000).optional(),
    /** What the screen showed: when the batch has changed meanwhile, nothing is recorded. */
    saw: z.strictObject({ inGrams: z.number(), targetGrams: z.number() }).optional(),
  }),
);

export const saltAccept = entryOf('salt.accept', z.strictObject({ batchId: id, reason: text(500) }));

/** A flavouring, a starter, or kept brine from another vessel. */
export const ingredientAdd = entryOf(
  'ingredient.add',
  z.strictObject({
    batchId: id,
    fromLotId: id,
    grams,
    /** Which line of the formula it settles, when its material stands in several. */
    line: z.string().min(1).max(40).optional(),
    tareGrams: gramsOrNone.max(100_000).optional(),
    /** Stock past its date goes in only with a reason. */
    pastReason: text(300).optional(),
    /** Into the brine of the batch instead of its bowls: stays in it, or is boiled with it and strained out. */
    brine: z.enum(['stays', 'strained']).optional(),
  }),
);

export const vesselFill = entryOf(
  'vessel.fill',
  z.strictObject({
    fillLotId: id,
    batchId: id,
    vesselId: id,
    /** Out of the batch's bowls. */
    grams,
    brine: z.strictObject({ brineLotId: id, grams }).nullable(),
    /** A reviewer's reason for a vessel under 1.5 % salt in the water phase. */
    weakSaltReason: text(500).optional(),
    /** Why it is filled beyond its brim. */
    overReason: text(300).optional(),
  }),
);

/** From one vessel into another: a merge, a top-up from a sister vessel. */
export const lotTransfer = entryOf(
  'lot.transfer',
  z.strictObject({
    fromLotId: id,
    toLotId: id,
    grams,
    note: text(300).nullable(),
    /** Of another formula, and meant. */
    confirmedOther: z.boolean().optional(),
    /** What is poured from is on hold, and so is all of what it is poured into from here on. */
    carryHolds: z.boolean().optional(),
  }),
);
