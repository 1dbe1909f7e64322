import { z } from 'zod';
import { BRINES_AT_PACKING, STORAGES } from '@clear-tally/core';
import { entryOf, grams, id, text, day, gramsOrNone } from './shape.js';

export const packedJars = z.strictObject({
  sizeMl: z.int().min(20).max(20_000),
  netGrams: grams.positive(),
  count: z.int().min(1).max(99_999),
});

export const packRun = entryOf(
  'pack.run',
  z.strictObject({
    runLotId: id,
    from: z
      .array(
        z.strictObject({
          fillLotId: id,
          grams,
          empties: z.boolean(),
          /** Of a vessel that is empty now: what was left in it, weighed and not packed; and why more is gone than gas takes. */
          restGrams: gramsOrNone.optional(),
          restReason: text(300).optional(),
        }),
      )
      .min(1)
      .max(20),
    jars: z.array(packedJars).min(1).max(8),
    sampleGrams: gramsOrNone,
    leftoverGrams: gramsOrNone,
    wasteGrams: gramsOrNone,
    /** Why the tally of the run does not close, when it does not. */
    tallyReason: text(500).nullable(),
    /** What is poured over what is in the jars, and where they are kept. */
    brine: z.enum(BRINES_AT_PACKING).optional(),
    storage: z.enum(STORAGES).optional(),
  }),
);

/** What stood in the house before its ledger began. */
export const lotOpen = entryOf(
  'lot.open',
  z.discriminatedUnion('what', [
    z.strictObject({
      what: z.literal('vessel'),
      batchId: id,
      fillLotId: id,
      name: text(120),
      vesselId: id,
      grams,
      filledOn: day.nullable(),
    }),
    z.strictObject({
      what: z.literal('jars'),
      batchId: id,
      runLotId: id,
      name: text(120),
      jars: z.array(packedJars).min(1).max(8),
      filledOn: day.nullable(),
    }),
  ]),
);
