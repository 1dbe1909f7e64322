import { CLOSURES, VESSEL_MATERIALS, VESSEL_SHAPES } from '@clear-tally/core';
import { z } from 'zod';
import { day, entryOf, fraction, grams, gramsOrNone, id, iso, text, unreadable } from './shape.js';

export { CLOSURES, VESSEL_SHAPES };

const mm = z.number().min(10).max(5000);

export const innerShape = z.discriminatedUnion('shape', [
  z.strictObject({ shape: z.literal('cylinder'), diameterMm: mm, heightMm: mm }),
  z.strictObject({ shape: z.literal('taper'), topMm: mm, bottomMm: mm, heightMm: mm }),
  z.strictObject({ shape: z.literal('neck'), diameterMm: mm, heightMm: mm, neckMm: mm, neckHeightMm: mm }),
]);

/** What else is known of a vessel; nothing of it is needed to use it. */
export const vesselDetails = z
  .strictObject({
    /** Empty and dry, without lid. */
    tareGrams: z.number().positive().max(1_000_000).nullable(),
    mouthMm: mm.nullable(),
    material: z.enum(VESSEL_MATERIALS).nullable(),
    boughtOn: day.nullable(),
    /** A crack, a chip, a stain that stays. */
    condition: text(200).nullable(),
    /** Why it is not in use. */
    out: z.enum(['repair', 'gone']).nullable(),
  })
  .partial();

const vesselBody = z.strictObject({
  vesselId: id,
  tag: z.string().regex(/^[A-Z][A-Z0-9]{0,4}$/, 'a capital letter and up to four letters or digits'),
  shape: z.enum(VESSEL_SHAPES),
  brimMl: z.number().min(100).max(2_000_000),
  maxFill: fraction.min(0.3).max(1),
  minFill: fraction.min(0).max(1),
  weightVolumeMl: z.number().min(0).max(100_000),
  closure: z.enum(CLOSURES),
  roomId: id,
  inUse: z.boolean(),
  /** Inner measures, mm, when somebody has taken them. */
  inner: innerShape.optional(),
  details: vesselDetails.optional(),
});

export const vesselAdd = entryOf('vessel.add', vesselBody);

/** As it is from now on: measured anew, moved, under repair, out of use. Its tag stays its own. */
export const vesselChange = entryOf('vessel.change', vesselBody.extend({ reason: text(300).nullable() }));

export const vesselClean = entryOf(
  'vessel.clean',
  z.strictObject({
    vesselId: id,
    agent: text(120),
    /** As its sheet has it, "20 mL to 10 L". */
    dilution: text(60).nullish(),
    contactMinutes: z.number().min(0).max(240).nullish(),
    rinsed: z.boolean().optional(),
    /** Whether its sheet asks for no rinse; entries of before were not asked. */
    noRinse: z.boolean().optional(),
    /** The batch of sanitiser it was done with. */
    mixId: id.nullish(),
  }),
);

/** The lid on: closure, headspace, weights in (to be counted out again), what was looked at. */
export const vesselClose = entryOf(
  'vessel.close',
  z.strictObject({
    lotId: id,
    closure: z.enum(CLOSURES),
    headspaceMm: z.number().min(0).max(2000).nullable(),
    weightItems: z
      .array(z.strictObject({ what: text(60), count: z.int().min(1).max(50), grams: gramsOrNone.nullable() }))
      .max(8),
    tray: z.boolean(),
    /** A reviewer's reason for a vessel under 1.5 % salt in the water phase, where none was given at filling. */
    weakSaltReason: text(500).optional(),
  }),
);

/** From room to room. */
export const vesselMove = entryOf('vessel.move', z.strictObject({ lotId: id, roomId: id }));

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
    /** Why it is filled past its window. */
    overReason: text(300).optional(),
    tareGrams: gramsOrNone.max(100_000).optional(),
    scaleId: id.optional(),
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

export const shelfVessel = z.strictObject({
  lotId: id,
  code: z.string(),
  name: z.string(),
  vesselTag: z.string(),
  shape: z.enum(VESSEL_SHAPES),
  closure: z.enum(CLOSURES),
  roomId: id,
  brimMl: z.number(),
  maxFill: z.number(),
  fillGrams: z.number(),
  filledAt: iso,
  day: z.int(),
  lastPh: z.number().nullable(),
  lastPhAt: iso.nullable(),
  /** False: the last that was read, by no reading that counts. */ phCounts: z.boolean(),
  readings: z.int(),
  hold: z.string().nullable(),
  /** Seen on it, "Watch" or "Act", and still to be looked at again. */ seen: z
    .strictObject({ verdict: z.enum(['watch', 'act']), name: z.string() })
    .nullable(),
  batchCode: z.string(),
  formulaNumber: z.int().nullable(),
  /** Checks due now, and of them late. */
  due: z.int(),
  late: z.int(),
});

export const shelfReply = z.strictObject({
  now: iso,
  rooms: z.array(z.strictObject({ id, name: z.string(), celsius: z.number().nullable() })),
  vessels: z.array(shelfVessel),
  faults: z.array(unreadable),
});

export type ShelfVessel = z.infer<typeof shelfVessel>;

export type ShelfReply = z.infer<typeof shelfReply>;
