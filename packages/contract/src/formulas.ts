import {
  CHECK_CONDITION_KEYS,
  FORM_KEYS,
  OUTSIDE_SCOPE,
  type OutsideScope,
  PLAN_KIND_KEYS,
  SALT_BASES,
  SCALE_BY,
  STEP_PLACES,
  windowFault,
} from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, fraction, grams, id, iso, text } from './shape.js';

export const FORMULA_STYLES = ['dryShred', 'brinedWhole', 'brinedMash', 'heavySaltPaste', 'drySaltedFruit'] as const;

const days = z.int().min(0).max(800);

const share = fraction.gt(0).max(1);

export const formulaLine = z.strictObject({
  materialId: id,
  scaleBy: z.enum(SCALE_BY),
  /** A fraction, or grams per litre, vessel, jar or batch; null is a hole. */
  amount: z.number().positive().nullable(),
  pieceGrams: grams.positive().nullish(),
  pieceName: text(40).nullish(),
  exponent: z.number().min(0.3).max(1.5).optional(),
  perMl: z.number().min(20).max(20_000).nullish(),
  least: z.number().min(0).nullish(),
  most: z.number().min(0).nullish(),
  variants: z.array(text(60)).max(8).nullish(),
  written: text(300).nullish(),
  note: text(500).nullish(),
});

const bound = z.number().min(-99_999).max(99_999).nullable();

/** What a check in the house's own words wants to know. */
export const checkAsks = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('figure'), unit: text(16).nullable(), least: bound, most: bound }),
  z.strictObject({ kind: z.literal('words') }),
]);

export const formulaCheck = z.strictObject({
  what: z.enum(PLAN_KIND_KEYS),
  words: text(80).nullable(),
  asks: checkAsks.nullish(),
  rule: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('onDays'),
      days: z.array(days).min(1).max(30),
      thenEveryDays: z.int().min(1).max(90).nullable(),
    }),
    z.strictObject({
      kind: z.literal('every'),
      hours: z
        .number()
        .min(1)
        .max(24 * 90),
      forDays: days.nullable(),
    }),
    z.strictObject({
      kind: z.literal('untilQuiet'),
      hours: z.number().min(1).max(240),
      forDays: days,
      thenHours: z
        .number()
        .min(1)
        .max(24 * 30),
      quietTimes: z.int().min(1).max(10),
      thenEveryDays: z.int().min(1).max(90),
    }),
    z.strictObject({ kind: z.literal('aroundCrossing'), hours: z.number().min(1).max(240) }),
  ]),
  condition: z.enum(CHECK_CONDITION_KEYS),
});

export const doneness = z.strictObject({
  phAtMost: z.number().min(2.5).max(4.6).nullable(),
  stableHours: z.number().min(1).max(400).nullable(),
  acidAtLeast: z.number().min(0).max(5).nullable(),
  days: z.strictObject({ from: days, to: days }).nullable(),
  colourThrough: z.boolean(),
  tasteSignOff: z.boolean(),
  gasQuietDays: days.nullable(),
});

const month = z.int().min(1).max(12);

/** When it is ready, of which of its lots: every condition and every day may be empty, but not all days. */
export const formulaWindow = z
  .strictObject({
    starter: z.boolean().nullable(),
    celsius: z.strictObject({ least: z.number().min(-2).max(45), most: z.number().min(-2).max(45) }).nullable(),
    months: z.strictObject({ from: month, to: month }).nullable(),
    variant: text(60).nullable(),
    tasteDay: days.nullable(),
    fromDay: days.nullable(),
    toDay: days.nullable(),
    counterDays: days.nullable(),
    bestFromDay: days.nullable(),
    bestUntilDay: days.nullable(),
  })
  .superRefine((of, ctx) => {
    const fault = windowFault(of);
    if (fault) ctx.addIssue({ code: 'custom', message: fault });
  });

export const heavySchool = z.strictObject({
  minutes: z.number().min(0).max(1440),
  cut: z.enum(['leaf', 'quarters']),
  rinses: z.int().min(0).max(10),
  litresPerKg: z.number().min(0).max(20),
  drainYield: share,
  wanted: fraction.min(0.015).max(0.08),
});

/** What a formula is about, without which formula it is: also what a file of formulas holds. */
export const formulaBody = z.strictObject({
  name: text(120),
  style: z.enum(FORMULA_STYLES),
  produce: z
    .array(z.strictObject({ materialId: id, share: fraction }))
    .min(1)
    .max(12),
  /** Null: the recipe does not say. */
  saltBasis: z.enum(SALT_BASES).nullable(),
  saltFraction: fraction.nullable(),
  /** The recipe's own words, "7 tbsp to 3 qt". */
  saltWritten: text(200).nullish(),
  saltMaterialId: id.nullish(),
  /** Grams of water poured per gram of trimmed produce; 0 for dry salting. */
  waterPerProduce: z.number().min(0).max(5).nullable(),
  lines: z.array(formulaLine).max(60),
  solidsFraction: share,
  yields: z.strictObject({ trim: share, ferment: share, pack: share, finish: share.optional() }),
  jarSizes: z
    .array(
      z.strictObject({
        sizeMl: z.int().min(20).max(20_000),
        fillGrams: grams.positive(),
        perCase: z.int().min(1).max(200).optional(),
        packagingCost: z.number().min(0).max(100).optional(),
        price: z.number().min(0).max(1000).optional(),
      }),
    )
    .min(1)
    .max(8),
  usualDays: z.int().min(1).max(800),
  note: text(1000).nullable(),
  form: z.enum(FORM_KEYS).optional(),
  heavy: heavySchool.nullish(),
  /** Trimmed mass the amounts were found with. */
  referenceGrams: grams.positive().max(2_000_000).optional(),
  variants: z.array(text(60)).max(8).optional(),
  steps: z
    .array(
      z.strictObject({
        words: text(500),
        minutes: z.number().min(0).max(10_000).nullable(),
        irreversible: z.boolean().optional(),
        at: z.enum(STEP_PLACES).nullish(),
      }),
    )
    .max(60)
    .optional(),
  checks: z.array(formulaCheck).max(24).optional(),
  done: doneness.nullish(),
  /** What it is made with: by its tag in the house's register, or in words. */
  equipment: z
    .array(z.strictObject({ tag: z.string().max(6).nullable(), words: text(80) }))
    .max(16)
    .optional(),
  /** Ready windows by starter, temperature, season and variant; the one that fits most closely counts. */
  windows: z.array(formulaWindow).max(12).optional(),
  /** Where it should stand, °C; without it the usual band of its room. */
  celsius: z.strictObject({ least: z.number().min(-2).max(45), most: z.number().min(-2).max(45) }).nullish(),
  labour: z
    .strictObject({ fixedMinutes: z.number().min(0).max(2000), minutesPerKg: z.number().min(0).max(200) })
    .nullish(),
  /** Says of itself that it is no vegetable ferment. */
  makes: z.enum(Object.keys(OUTSIDE_SCOPE) as [OutsideScope, ...OutsideScope[]]).nullish(),
  /** House rules this formula differs in. */
  rules: z.record(z.string().max(40), z.string().max(40)).optional(),
});

export const formulaVersion = formulaBody.extend({
  formulaId: id,
  number: z.int().min(1).max(999),
  version: z.int().min(1).max(999),
});

export const formulaSave = entryOf('formula.save', formulaVersion);

/** Out of use, or back: nothing is deleted. */
export const formulaRetire = entryOf(
  'formula.retire',
  z.strictObject({ formulaId: id, retired: z.boolean(), reason: text(300).nullable() }),
);

const learned = z.strictObject({ median: z.number(), least: z.number(), most: z.number(), lots: z.int() }).nullable();

export const formulaReply = formulaVersion
  .required({ variants: true, steps: true, checks: true, rules: true, form: true, referenceGrams: true })
  .extend({
    style: z.enum(FORMULA_STYLES),
    produce: z.array(
      z.strictObject({
        materialId: id,
        share: z.number(),
        name: z.string(),
        waterFraction: z.number(),
        pieceGrams: z.number().nullable(),
      }),
    ),
    lines: z.array(
      formulaLine.extend({
        name: z.string(),
        waterFraction: z.number(),
        saltFraction: z.number(),
        allergens: z.array(z.string()),
        isStarter: z.boolean(),
      }),
    ),
    saltName: z.string().nullable(),
    pastWaterPhaseSalt: z.array(z.number()),
    /** What the house's last lots of this formula gave. */
    learned: z.strictObject({ trim: learned, ferment: learned, pack: learned }),
    versions: z.array(z.strictObject({ version: z.int(), savedAt: iso, by: z.string() })),
    retired: z.string().nullable(),
    /** Why it gets no check plan and no release. */
    outsideScope: z.string().nullable(),
  });

export const formulasReply = z.strictObject({
  formulas: z.array(
    z.strictObject({
      formulaId: id,
      number: z.int(),
      version: z.int(),
      name: z.string(),
      style: z.enum(FORMULA_STYLES),
      saltBasis: z.string().nullable(),
      saltFraction: z.number().nullable(),
      usualDays: z.int(),
      batches: z.int(),
      holes: z.int(),
      retired: z.string().nullable(),
      outsideScope: z.boolean(),
    }),
  ),
});

export const workingReply = z.strictObject({
  rule: z.string(),
  figures: z.string(),
  answer: z.string(),
  sources: z.array(z.strictObject({ what: z.string(), from: z.string() })).readonly(),
});

export type FormulaReply = z.infer<typeof formulaReply>;

export type FormulasReply = z.infer<typeof formulasReply>;
