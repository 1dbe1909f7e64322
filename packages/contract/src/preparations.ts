import { PREPARATIONS } from '@clear-tally/core';
import { z } from 'zod';
import { step } from './making.js';
import { day, entryOf, grams, gramsOrNone, id, saltFigure, text } from './shape.js';

/** A paste, porridge, purée, liquor or woken culture, of whatever lots are at hand. */
export const preparationMake = entryOf(
  'preparation.make',
  z.strictObject({
    lotId: id,
    batchId: id,
    form: z.enum(PREPARATIONS).exclude(['brine', 'keptBrine', 'repackBrine', 'boiledBrine', 'byProduct']),
    name: text(80),
    parts: z
      .array(z.strictObject({ fromLotId: id, grams, line: step.nullish() }))
      .min(1)
      .max(20),
    boiledOffGrams: gramsOrNone,
    scaleId: id.optional(),
  }),
);

/** What is left of a brine: never touched the product, or was poured off it. Without an answer it goes nowhere. */
export const brineLeft = entryOf(
  'brine.left',
  z.strictObject({
    brineLotId: id,
    grams: gramsOrNone,
    touched: z.enum(['never', 'pouredOff']),
    /** Poured off: which vessel it stood on, and the id of the lot it becomes. */
    fillLotId: id.nullable(),
    keptLotId: id.nullable(),
    /** Whether spices are in it, were strained out of it, or never went in. */
    spices: z.enum(['none', 'in', 'strained']).optional(),
    /** Where the difference went, when made, poured and left do not close. */
    differenceReason: text(300).nullish(),
  }),
);

/** Left-over brine, never touched, poured into another batch's brine. */
export const brineJoin = entryOf('brine.join', z.strictObject({ batchId: id, fromLotId: id, brineLotId: id, grams }));

/** Brine taken off a live vessel, kept cold to start others. */
export const brineKeep = entryOf(
  'brine.keep',
  z.strictObject({ lotId: id, fillLotId: id, grams, useBy: day.nullable() }),
);

/** The rest of something weighed, put back where it came from before it met anything else. */
export const remainderReturn = entryOf(
  'remainder.return',
  z.strictObject({ batchId: id, of: id, grams, keepsUntil: day.nullable() }),
);

/** What stands about that can go into a batch: kept brine, live vessels that may give some, left-over brine, what was made for another batch. */
export const startersReply = z.strictObject({
  starters: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      name: z.string(),
      kind: z.enum(['keptBrine', 'vessel', 'leftBrine', 'made']),
      onHandGrams: z.number(),
      generation: z.int().nullable(),
      useBy: z.string().nullable(),
      lastPh: z.number().nullable(),
      salt: saltFigure,
      refusal: z.string().nullable(),
    }),
  ),
});

export type StartersReply = z.infer<typeof startersReply>;
