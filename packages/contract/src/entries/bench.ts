import { z } from 'zod';
import { PREPARATIONS } from '@clear-tally/core';
import { CLOSURES } from './house.js';
import { entryOf, fraction, grams, id, text, day, gramsOrNone } from './shape.js';

const step = z.string().min(1).max(40);
const minutes = z.number().min(0).max(1440);

/** Somebody begins a step of the run sheet: from here its labour minutes count. */
export const stepBegin = entryOf('step.begin', z.strictObject({ batchId: id, step }));

/** A step is done, with its checklist; or skipped, with the reason. `minutes` stands in place of the measured ones. */
export const stepFinish = entryOf(
  'step.finish',
  z.strictObject({
    batchId: id,
    step,
    minutes: minutes.nullable(),
    checked: z.array(z.string().max(40)).max(20),
    skipped: text(300).nullable(),
    note: text(500).nullable(),
  }),
);

/** A formula line that is not weighed: in by its planned mass and marked so, or left out with its reason. */
export const lineSettle = entryOf(
  'line.settle',
  z.discriminatedUnion('how', [
    z.strictObject({
      how: z.literal('ticked'),
      batchId: id,
      line: step,
      note: text(300).nullable(),
      /** Where it came from; none only with a note why nobody knows. `grams`: about how much, where nothing was planned. */
      fromLotId: id.nullish(),
      grams: grams.optional(),
    }),
    z.strictObject({ how: z.literal('leftOut'), batchId: id, line: step, reason: text(300) }),
  ]),
);

export const timerStart = entryOf(
  'timer.start',
  z.strictObject({
    timerId: id,
    batchId: id.nullable(),
    step: step.nullable(),
    words: text(80),
    minutes: z
      .number()
      .min(0.05)
      .max(72 * 60),
  }),
);
export const timerStop = entryOf('timer.stop', z.strictObject({ timerId: id }));

/** A second person has looked at scale, lot and figure. */
export const saltConfirm = entryOf('salt.confirm', z.strictObject({ batchId: id, sawGrams: grams }));

/** Nothing more is made of it: lines settled, steps named, bowls empty. */
export const batchClose = entryOf('batch.close', z.strictObject({ batchId: id, note: text(500).nullable() }));

/** A paste, porridge, purée, liquor or woken culture, of whatever lots are at hand. */
export const preparationMake = entryOf(
  'preparation.make',
  z.strictObject({
    lotId: id,
    batchId: id,
    form: z.enum(PREPARATIONS).exclude(['brine', 'keptBrine']),
    name: text(80),
    parts: z
      .array(z.strictObject({ fromLotId: id, grams, line: step.nullish() }))
      .min(1)
      .max(20),
    boiledOffGrams: gramsOrNone,
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

export const leafTurn = entryOf('leaf.turn', z.strictObject({ batchId: id }));

export const LEAF_TASTES = ['tooSalty', 'between', 'tooWeak'] as const;
const measured = z.strictObject({ waterPhaseSalt: fraction.min(0).max(0.26), how: z.enum(['meter', 'refractometer']) });
export const leafRinse = entryOf(
  'leaf.rinse',
  z.strictObject({
    batchId: id,
    waterGrams: grams,
    tasted: z.enum(LEAF_TASTES).nullable(),
    measured: measured.nullable(),
  }),
);
export const leafDrain = entryOf(
  'leaf.drain',
  z.strictObject({
    batchId: id,
    drainedGrams: grams,
    measured: measured.nullable(),
    tasted: z.enum(LEAF_TASTES).nullable(),
    reason: text(300).nullable(),
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

/** Labels printed for lots: on which printer, or as a sheet. */
export const labelPrint = entryOf(
  'label.print',
  z.strictObject({ lotIds: z.array(id).min(1).max(60), copies: z.int().min(1).max(10), printer: text(60).nullable() }),
);

/** The rest of something weighed, put back where it came from before it met anything else. */
export const remainderReturn = entryOf(
  'remainder.return',
  z.strictObject({ batchId: id, of: id, grams, keepsUntil: day.nullable() }),
);
