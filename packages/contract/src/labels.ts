import { LABEL_FIELDS, SYMBOL_KINDS } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, id, iso, text } from './shape.js';

/** Labels printed for lots: on which printer, or as a sheet. */
export const labelPrint = entryOf(
  'label.print',
  z.strictObject({ lotIds: z.array(id).min(1).max(60), copies: z.int().min(1).max(10), printer: text(60).nullable() }),
);

const mm = z.number().min(0).max(500);
const serial = z.int().min(1).max(99_999);

export const labelDesignBody = z.strictObject({
  paper: z.strictObject({
    pageWidthMm: mm.min(10),
    pageHeightMm: mm.min(10),
    columns: z.int().min(1).max(20),
    rows: z.int().min(1).max(40),
    widthMm: mm.min(10),
    heightMm: mm.min(8),
    leftMm: mm,
    topMm: mm,
    gapXMm: mm,
    gapYMm: mm,
  }),
  fields: z
    .array(
      z.strictObject({
        key: z.enum(LABEL_FIELDS),
        on: z.boolean(),
        points: z.number().min(3).max(72),
        /** Where it was put by hand; else it flows with the others. */
        place: z.strictObject({ xMm: mm, yMm: mm, widthMm: mm.min(2) }).nullish(),
      }),
    )
    .min(1)
    .max(LABEL_FIELDS.length)
    .refine((fields) => new Set(fields.map(({ key }) => key)).size === fields.length, 'each field once'),
  symbol: z
    .strictObject({
      kind: z.enum(SYMBOL_KINDS),
      mm: z.number().min(5).max(100),
      place: z.strictObject({ xMm: mm, yMm: mm }).nullish(),
    })
    .nullable(),
  leastLetterMm: z.number().min(0.5).max(5),
  gtin: z
    .string()
    .regex(/^(?:\d{8}|\d{12,14})$/, 'an article number of 8, 12, 13 or 14 digits')
    .nullable(),
  until: z.enum(['bestBefore', 'useBy']),
  untilDays: z.int().min(1).max(3650).nullable(),
  producer: z.string().trim().max(160),
  text: z.string().trim().max(300),
});

/** How labels of jars look from now on. */
export const labelDesign = entryOf(
  'label.design',
  z.strictObject({
    designId: id,
    name: text(60),
    /** The formula whose jars it is for; none: for all of the house. */
    formulaId: id.nullish(),
    design: labelDesignBody,
  }),
);

/** Labels of jars that came out, by number; out again with the reason. */
export const labelJars = entryOf(
  'label.jars',
  z.strictObject({
    runLotId: id,
    designId: id,
    first: serial,
    last: serial,
    printer: text(60).nullable(),
    reason: text(300).nullable(),
    /** The lot of blank labels they were printed on; one piece of it for each. */
    labelLotId: id.nullish(),
  }),
);

/** Where the labels of a run are: on jars, spoiled, back on the shelf; together what came out. */
export const labelTally = entryOf(
  'label.tally',
  z.strictObject({
    runLotId: id,
    used: z.int().min(0).max(200_000),
    spoiled: z.int().min(0).max(200_000),
    back: z.int().min(0).max(200_000),
    reason: text(300).nullable(),
  }),
);

const laid = z.strictObject({
  texts: z.array(
    z.strictObject({
      field: z.enum(LABEL_FIELDS),
      words: z.string(),
      bold: z.boolean(),
      xMm: z.number(),
      yMm: z.number(),
      points: z.number(),
    }),
  ),
  symbol: z.strictObject({ xMm: z.number(), yMm: z.number(), mm: z.number() }).nullable(),
  over: z.array(z.enum(LABEL_FIELDS)),
  crossed: z.array(z.enum(LABEL_FIELDS)),
});

/** One label as it will stand on a jar, true to scale, and what stands against it. */
export const labelPreview = z.strictObject({
  laid,
  /** Its symbol, an SVG in base64; null: it has none. */
  symbol: z.string().nullable(),
  /** The symbol was read back from its image. */
  reads: z.boolean(),
  problems: z.array(z.strictObject({ field: z.string(), words: z.string() })),
  /** Why it says by itself what it says. */
  because: z.array(z.string()),
});

export const labelsReply = z.strictObject({
  run: z.strictObject({ lotId: id, code: z.string(), name: z.string(), last: z.int(), formulaId: id.nullable() }),
  /** Those of its formula first, then those for all of the house. */
  designs: z.array(
    z.strictObject({ designId: id, name: z.string(), formulaId: id.nullable(), design: labelDesignBody }),
  ),
  prints: z.array(
    z.strictObject({
      first: z.int(),
      last: z.int(),
      at: iso,
      by: z.string(),
      printer: z.string().nullable(),
      reason: z.string().nullable(),
      labelLot: z.string().nullable(),
    }),
  ),
  out: z.int(),
  tally: z
    .strictObject({
      used: z.int(),
      spoiled: z.int(),
      back: z.int(),
      reason: z.string().nullable(),
      clear: z.boolean(),
    })
    .nullable(),
  /** Jars whose labels say the same: of one size, alike in their heat. */
  parts: z.array(z.strictObject({ first: z.int(), last: z.int(), words: z.string() })),
  /** First jar without a label; null: each has one. */
  next: z.int().nullable(),
});

export type LabelPreview = z.infer<typeof labelPreview>;
export type LabelsReply = z.infer<typeof labelsReply>;
