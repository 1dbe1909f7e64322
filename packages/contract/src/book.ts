import { z } from 'zod';
import { bookLine } from './correcting.js';
import { id, iso, saltFigure } from './shape.js';
import { CLOSURES, VESSEL_SHAPES } from './vessels.js';

export const tallyReply = z.strictObject({
  inGrams: z.number(),
  outGrams: z.number(),
  lossGrams: z.number(),
  onHandGrams: z.number(),
  byDifference: z.strictObject({ sink: z.string(), grams: z.number(), mostGrams: z.number() }).nullable(),
  unexplainedGrams: z.number(),
  toleranceGrams: z.number(),
  clear: z.boolean(),
  likelySlip: z.string().nullable(),
});

export const lotReply = z.strictObject({
  lotId: id,
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  origin: z.string(),
  at: iso,
  day: z.int().nullable(),
  batchCode: z.string().nullable(),
  closed: z.boolean(),
  hold: z.string().nullable(),
  vessel: z
    .strictObject({
      tag: z.string(),
      shape: z.enum(VESSEL_SHAPES),
      closure: z.enum(CLOSURES),
      brimMl: z.number(),
      maxFill: z.number(),
      room: z.string(),
      cleanedAt: iso.nullable(),
      cleanedWith: z.string().nullable(),
      usedSince: z.boolean(),
    })
    .nullable(),
  supplier: z.strictObject({ name: z.string(), lotCode: z.string().nullable() }).nullable(),
  jars: z.array(
    z.strictObject({ sizeMl: z.int(), netGrams: z.number(), first: z.string(), last: z.string(), count: z.int() }),
  ),
  relatives: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      grams: z.number(),
      direction: z.enum(['in', 'out']),
    }),
  ),
  lines: z.array(bookLine),
  tally: tallyReply,
  salt: saltFigure.nullable(),
  acidLimit: z.number(),
  packable: z.string().nullable(),
  /** Of everything that went in, in time: also what came with kept brine. */
  allergens: z.array(z.strictObject({ words: z.string(), certain: z.boolean(), from: z.array(z.string()) })),
});

export const lotsReply = z.strictObject({
  lots: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      at: iso,
      state: z.string(),
      lastPh: z.number().nullable(),
      lastPhAt: iso.nullable(),
      phCounts: z.boolean(),
      onHandGrams: z.number().nullable(),
      vesselTag: z.string().nullable(),
      jars: z.int().nullable(),
    }),
  ),
  next: z.string().nullable(),
});

export type TallyReply = z.infer<typeof tallyReply>;

export type LotReply = z.infer<typeof lotReply>;

export type LotsReply = z.infer<typeof lotsReply>;
