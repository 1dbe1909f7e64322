import { FINISH_PARTS, FINISH_STATIONS, FINISHES, GATE_KEYS } from '@clear-tally/core';
import { z } from 'zod';
import { contents, entryOf, fraction, grams, gramsOrNone, id, iso, saltFigure, text } from './shape.js';

/** A ferment taken in hand before it is packed: a lot of its own, in a bowl, a pan or a vessel of the house. */
export const finishBegin = entryOf(
  'finish.begin',
  z.strictObject({
    finishLotId: id,
    what: z.enum(FINISHES),
    vesselId: id,
    from: z
      .array(
        z.strictObject({
          fillLotId: id,
          grams,
          /** Drained pieces, or all of it with its brine. */
          of: z.enum(['solids', 'all']),
        }),
      )
      .min(1)
      .max(12),
    /** Vessels of several batches become one thing, and that is meant. */
    merge: z.literal(true).optional(),
  }),
);

/** Brine made ready for a repack: its own, strained, boiled and cooled; or fresh. */
export const finishBrine = entryOf(
  'finish.brine',
  z.discriminatedUnion('how', [
    z.strictObject({
      how: z.literal('boiled'),
      finishLotId: id,
      brineLotId: id,
      fromLotId: id,
      grams,
      /** As it was weighed when it had cooled. */
      leftGrams: grams,
    }),
    z.strictObject({
      how: z.literal('fresh'),
      finishLotId: id,
      brineLotId: id,
      waterLotId: id,
      waterGrams: grams,
      saltLotId: id.nullable(),
      saltGrams: gramsOrNone,
    }),
  ]),
);

/** Something goes in: brine back, vinegar, thickener, sugar, spice, water, salt. */
export const finishAdd = entryOf(
  'finish.add',
  z.strictObject({
    finishLotId: id,
    fromLotId: id,
    grams,
    as: z.enum(FINISH_PARTS),
    /** Of vinegar: percent of acetic acid, from its bottle. */
    strengthPercent: z.number().min(1).max(30).optional(),
    pastReason: text(300).optional(),
    scaleId: id.optional(),
  }),
);

/** Dried: how warm, how long, what it weighs now, and its water activity where somebody measured it. */
export const finishDry = entryOf(
  'finish.dry',
  z.strictObject({
    finishLotId: id,
    celsius: z.number().min(20).max(120),
    hours: z.number().positive().max(500),
    leftGrams: grams,
    waterActivity: fraction.min(0.05).max(1).nullable(),
  }),
);

/** Juice, brine for the kitchen, pieces: what comes off beside the product, as a lot of its own. */
export const finishByProduct = entryOf(
  'finish.byProduct',
  z.strictObject({ lotId: id, fromLotId: id, as: z.enum(['juice', 'pieces']), name: text(120), grams }),
);

/** Bottles settled for a day: topped up from one bottle of the same run, and closed for good. */
export const runLevel = entryOf(
  'run.level',
  z.strictObject({
    runLotId: id,
    /** Serial of the bottle the others were topped up from; null: none was needed. */
    bottle: z.int().min(1).max(99_999).nullable(),
    capped: z.boolean(),
    note: text(300).nullable(),
  }),
);

const part = z.strictObject({
  entryId: id,
  lotId: id,
  code: z.string(),
  name: z.string(),
  as: z.enum(['product', ...FINISH_PARTS]),
  grams: z.number(),
  at: iso,
  by: z.string(),
});

export const finishStepReply = z.strictObject({
  key: z.enum(FINISH_STATIONS),
  name: z.string(),
  words: z.array(z.string()).readonly(),
  minutes: z.number().nullable(),
  irreversible: z.boolean(),
  checks: z.array(z.strictObject({ key: z.string(), words: z.string() })).readonly(),
  cautions: z.array(z.strictObject({ words: z.string(), wear: z.boolean() })).readonly(),
  state: z.enum(['open', 'begun', 'done', 'skipped']),
  labourMinutes: z.number().nullable(),
  by: z.string().nullable(),
  at: iso.nullable(),
  note: z.string().nullable(),
  unchecked: z.array(z.string()).readonly(),
  begunBy: z.array(z.strictObject({ by: z.string(), at: iso })).readonly(),
  open: z.string().nullable(),
});

const range = z.strictObject({ from: z.number(), to: z.number(), lots: z.int() });

export const finishReply = z.strictObject({
  lotId: id,
  code: z.string(),
  name: z.string(),
  what: z.enum(FINISHES),
  batchCode: z.string(),
  vesselTag: z.string(),
  beganAt: iso,
  closedAt: iso.nullable(),
  steps: z.array(finishStepReply).readonly(),
  /** Everything that went in, in its order. */
  parts: z.array(part),
  onHandGrams: z.number(),
  contents,
  salt: saltFigure,
  /** What came out of the vessels, before anything was added. */
  productGrams: z.number(),
  /** The vessels it came from, and what stands in them still. */
  sources: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      onHandGrams: z.number(),
      closed: z.boolean(),
      contents,
      ph: z.number().nullable(),
    }),
  ),
  /** The sourest to be said of what it came from: the highest pH that counts. */
  sourcePh: z.number().nullable(),
  /** Brines made ready for it, and what is left of each. */
  brines: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      boiled: z.boolean(),
      onHandGrams: z.number(),
      /** Boiled away; null for a fresh one. */
      boiledOffGrams: z.number().nullable(),
      contents,
    }),
  ),
  byProducts: z.array(z.strictObject({ lotId: id, code: z.string(), name: z.string(), grams: z.number() })),
  dried: z
    .strictObject({
      celsius: z.number(),
      hours: z.number(),
      leftGrams: z.number(),
      waterActivity: z.number().nullable(),
    })
    .nullable(),
  /** What feeds it again. */
  restarts: z.array(z.string()),
  lostGrams: z.number(),
  gate: z.array(
    z.strictObject({
      key: z.enum(GATE_KEYS),
      words: z.string(),
      state: z.enum(['met', 'open', 'watch', 'hold']),
      now: z.string(),
      says: z.string().nullable(),
    }),
  ),
  lastPh: z.number().nullable(),
  /** Fractions this house has used in finishes of this kind, of the mass they went into. */
  usual: z.strictObject({
    brine: range.nullable(),
    vinegar: range.nullable(),
    thickener: range.nullable(),
    lost: range.nullable(),
  }),
  jarSizes: z.array(z.strictObject({ sizeMl: z.int(), fillGrams: z.number() })),
});

export const finishesReply = z.strictObject({
  finishes: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      name: z.string(),
      what: z.enum(FINISHES),
      vesselTag: z.string(),
      beganAt: iso,
      onHandGrams: z.number(),
      /** The step it waits at; null: it can be packed. */
      waits: z.string().nullable(),
    }),
  ),
});

export type FinishReply = z.infer<typeof finishReply>;
export type FinishesReply = z.infer<typeof finishesReply>;
