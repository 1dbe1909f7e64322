import { BRINES_AT_PACKING, STORAGES } from '@clear-tally/core';
import { z } from 'zod';
import { day, entryOf, grams, gramsOrNone, id, saltFigure, text } from './shape.js';

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
          /** Weight items that came out of it, counted. */
          weightsOut: z.int().min(0).max(200).optional(),
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
    /** Bottles settle first: they are levelled and closed for good a day later. */
    closeLater: z.literal(true).optional(),
    /** Jars weighed as they were filled, net. */
    weights: z
      .array(z.strictObject({ sizeMl: z.int().min(20).max(20_000), grams: z.array(grams.positive()).min(1).max(60) }))
      .max(8)
      .optional(),
    /** The scale those were weighed on. */
    scaleId: id.optional(),
    /** What goes into the jars themselves: firming salt, a leaf, a spice. */
    added: z
      .array(z.strictObject({ fromLotId: id, grams }))
      .max(8)
      .optional(),
    /** Jars, lids, inserts by lot, in the order they were opened; more than the jars were spoiled. */
    closures: z
      .array(z.strictObject({ lotId: id, count: z.int().min(1).max(99_999) }))
      .max(12)
      .optional(),
    /** The last so many jars are kept, and tasted so many days after packing. */
    retained: z
      .strictObject({
        count: z.int().min(1).max(500),
        roomId: id,
        onDays: z.array(z.int().min(1).max(3650)).min(1).max(12),
      })
      .optional(),
    /** Nothing of the product before is left on the line, its labels neither. */
    cleared: z.literal(true).optional(),
    /** Where weight items are that did not come out; the run is held with it. */
    weightsReason: text(300).optional(),
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

/** What stands there by weighing, with the one sink that may take a plausible difference. */
export const lotCount = entryOf(
  'lot.count',
  z.strictObject({ lotId: id, grams: gramsOrNone, byDifference: z.enum(['gas', 'drip']).nullable() }),
);

export const packableReply = z.strictObject({
  fills: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      batchCode: z.string(),
      name: z.string(),
      vesselTag: z.string(),
      day: z.int(),
      lastPh: z.number().nullable(),
      onHandGrams: z.number(),
      inGrams: z.number(),
      refusal: z.string().nullable(),
      salt: saltFigure,
      /** The answers of the house it was made by: what is asked at packing. */ rules: z.record(z.string(), z.string()),
      jarSizes: z.array(z.strictObject({ sizeMl: z.int(), fillGrams: z.number() })),
      /** Weight items that went in: as many come out, whole. */
      weightsIn: z.int(),
    }),
  ),
});

/** What is asked at the table of one vessel: what carries allergens before it, what went into it, what joins in the jars. */
export const packingReply = z.strictObject({
  allergens: z.array(z.string()),
  /** The run packed last, when that was within a day: what of it must not get into this one. */
  before: z.strictObject({ code: z.string(), name: z.string(), allergens: z.array(z.string()) }).nullable(),
  /** Formula lines that go into each jar. */
  perJar: z.array(z.strictObject({ materialId: id, name: z.string(), gramsPerJar: z.number() })),
  /** Everything that may be packed now, in an order in which nothing carries an allergen into the next. */
  order: z.array(z.strictObject({ vesselTag: z.string(), name: z.string(), allergens: z.array(z.string()) })),
});

export type PackingReply = z.infer<typeof packingReply>;
export type PackableReply = z.infer<typeof packableReply>;
