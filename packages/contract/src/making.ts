import { FORM_KEYS, PREPARATIONS, SALT_BASES, STATIONS } from '@clear-tally/core';
import { z } from 'zod';
import { formulaReply, workingReply } from './formulas.js';
import { contents, entryOf, fraction, grams, gramsOrNone, houseBandOf, id, iso, saltFigure, text } from './shape.js';
import { CLOSURES } from './vessels.js';

export const step = z.string().min(1).max(40);

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
    scaleId: id.optional(),
  }),
);

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
    scaleId: id.optional(),
    pastReason: text(300).optional(),
    /** Counted as they were weighed: heads, bunches. */
    pieces: z.int().min(1).max(100_000).optional(),
    /** Weighed together with other produce: what all of it weighed. Its own mass is its share of that. */
    mixedGrams: grams.optional(),
    /** Why frozen produce goes in without a starter. */
    frozenReason: text(300).optional(),
  }),
);

export const brineMake = entryOf(
  'brine.make',
  z.strictObject({
    brineLotId: id,
    batchId: id,
    waterLotId: id,
    waterGrams: grams,
    tareGrams: gramsOrNone.max(100_000).optional(),
    scaleId: id.optional(),
  }),
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
    scaleId: id.optional(),
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
    /** Counted as they were weighed: heads, bunches, jars. */
    pieces: z.int().min(1).max(100_000).optional(),
    tareGrams: gramsOrNone.max(100_000).optional(),
    scaleId: id.optional(),
    /** Stock past its date goes in only with a reason. */
    pastReason: text(300).optional(),
    /** Why more goes in than the formula calls usual. */
    unusualReason: text(300).optional(),
    /** Into the brine of the batch instead of its bowls: stays in it, or is boiled with it and strained out. */
    brine: z.enum(['stays', 'strained']).optional(),
  }),
);

/** What a batch on the bench waits for. */
export const MAKING_STAGES = ['forProduce', 'forSalt', 'toBeFilled', 'partlyFilled', 'toBeClosed'] as const;

export type MakingStage = (typeof MAKING_STAGES)[number];

const weighed = z.strictObject({
  entryId: id,
  lotCode: z.string(),
  /** Of a supply; what came from a vessel or a preparation has none. */
  materialId: id.nullable(),
  materialName: z.string(),
  supplierName: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  grams: z.number(),
  at: iso,
  by: z.string(),
  /** Weighed in one bowl with others: its mass is a share. */
  together: z.boolean(),
  /** Tag of the scale it was weighed on, where it was said. */
  scale: z.string().nullable(),
});

const sheetStep = z.strictObject({
  key: z.string(),
  station: z.enum(STATIONS),
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
  /** What its target still lacks; null when it is met or has none. */
  open: z.string().nullable(),
});

const sheetLine = z.strictObject({
  key: z.string(),
  materialId: id,
  name: z.string(),
  plannedGrams: z.number().nullable(),
  /** What usually goes in of it, for this batch. */
  usual: z.strictObject({ least: z.number().nullable(), most: z.number().nullable() }).nullable(),
  inGrams: z.number(),
  state: z.enum(['open', 'weighed', 'ticked', 'leftOut']),
  reason: z.string().nullable(),
  /** May go in by its planned mass, without being weighed. */ mayTick: z.boolean(),
});

const leafReply = z.strictObject({
  log: z.array(
    z.strictObject({
      entryId: id,
      what: z.enum(['turn', 'rinse', 'drain']),
      at: iso,
      by: z.string(),
      waterGrams: z.number().nullable(),
      drainedGrams: z.number().nullable(),
      waterPhaseSalt: z.number().nullable(),
      how: z.string().nullable(),
      tasted: z.enum(LEAF_TASTES).nullable(),
    }),
  ),
  saltedAt: iso.nullable(),
  estimate: z.number(),
  least: z.number(),
  most: z.number(),
  rinses: z.int(),
  minutes: z.number(),
  /** What is reckoned with: measured, or the estimate. */
  leafSalt: z.number(),
  measured: z.boolean(),
  drainedGrams: z.number().nullable(),
  wanted: z.number(),
  pasteSaltGrams: z.number(),
});

const preparation = z.strictObject({
  lotId: id,
  code: z.string(),
  form: z.enum(PREPARATIONS),
  name: z.string(),
  madeGrams: z.number(),
  onHandGrams: z.number(),
  /** Into vessels; elsewhere, such as another batch's brine; lost. */ pouredGrams: z.number(),
  elsewhereGrams: z.number(),
  lostGrams: z.number(),
  /** Names of what is in it beside water and salt. */ spices: z.array(z.string()),
  touched: z.enum(['never', 'pouredOff']).nullable(),
  generation: z.int().nullable(),
  useBy: z.string().nullable(),
});

export const makeReply = z.strictObject({
  /** Of a started batch: its salt and water are settled. */
  formula: formulaReply.extend({
    saltBasis: z.enum(SALT_BASES),
    saltFraction: z.number(),
    waterPerProduce: z.number(),
  }),
  batchId: id,
  code: z.string(),
  startedAt: iso,
  planned: z.strictObject({
    trimmedGrams: z.number(),
    boughtGrams: z.number(),
    lines: z.array(
      z.strictObject({
        key: z.string(),
        materialId: id.nullable(),
        name: z.string(),
        role: z.string(),
        grams: z.number().nullable(),
      }),
    ),
  }),
  variant: z.string().nullable(),
  rules: z.record(z.string(), z.string()),
  form: z.enum(FORM_KEYS),
  produce: z.array(weighed.extend({ trimWasteGrams: z.number() })),
  produceGrams: z.number(),
  brine: z
    .strictObject({
      lotId: id,
      code: z.string(),
      waterGrams: z.number(),
      saltGrams: z.number(),
      onHandGrams: z.number(),
      contents,
    })
    .nullable(),
  /** What stands in the bowls, as it went in. */
  bowls: contents,
  plannedWaterGrams: z.number(),
  salt: z.strictObject({
    inGrams: z.number(),
    targetGrams: z.number(),
    tolerance: z.number(),
    accepted: z.string().nullable(),
    portions: z.array(weighed),
    working: workingReply,
    waterPhaseSalt: z.number(),
  }),
  ingredients: z.array(weighed),
  fills: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      vesselTag: z.string(),
      grams: z.number(),
      fillFraction: z.number(),
      room: z.string(),
      labels: z.int(),
      closure: z.enum(CLOSURES).nullable(),
      salt: saltFigure,
      houseBand: houseBandOf,
      weakAccepted: z.boolean(),
    }),
  ),
  inBowlsGrams: z.number(),
  closedAt: iso.nullable(),
  steps: z.array(sheetStep).readonly(),
  lines: z.array(sheetLine).readonly(),
  preparations: z.array(preparation),
  leaf: leafReply.nullable(),
  /** A second person's word on the salt as it is now, where the house wants one. */
  confirmation: z.strictObject({ wanted: z.boolean(), by: z.string().nullable(), weighedBy: z.array(id) }),
});

export const makingReply = z.strictObject({
  batches: z.array(
    z.strictObject({
      batchId: id,
      code: z.string(),
      name: z.string(),
      startedAt: iso,
      /** What it waits for. */
      stage: z.enum(MAKING_STAGES),
      inBowlsGrams: z.number(),
    }),
  ),
});

export const timersReply = z.strictObject({
  now: iso,
  timers: z.array(
    z.strictObject({
      timerId: id,
      batchId: id.nullable(),
      batchCode: z.string().nullable(),
      /** Of a finish: its sheet stands under its code. */
      finish: z.boolean(),
      step: z.string().nullable(),
      words: z.string(),
      minutes: z.number(),
      startedAt: iso,
      endsAt: iso,
      by: z.string(),
    }),
  ),
});

export type MakeReply = z.infer<typeof makeReply>;

export type MakingReply = z.infer<typeof makingReply>;

export type TimersReply = z.infer<typeof timersReply>;

export type SheetStepReply = MakeReply['steps'][number];
