import { z } from 'zod';
import { entryOf, grams, id, iso, moment, text } from './shape.js';
import { SAMPLES } from './watching.js';

/** A figure alone, as earlier books have it. */
const figure = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('salt.weigh'), grams }),
  z.strictObject({
    kind: z.literal('ph.read'),
    ph: z.number(),
    sample: z.enum(SAMPLES),
    confirmedUnusual: z.boolean().optional(),
  }),
  z.strictObject({ kind: z.literal('temperature.read'), celsius: z.number() }),
]);

/**
 * Puts an entry right: what it should have said, or null when it never happened. The wrong one stays in the journal, and
 * both stay visible. Whether the right body is one of its kind is asked where that kind's schema is known.
 */
export const entryCorrect = entryOf(
  'entry.correct',
  z
    .strictObject({
      corrects: id,
      reason: text(300),
      right: figure.optional(),
      instead: z
        .strictObject({
          kind: z.string().max(40),
          /** When it really happened; left out: when it said. */
          happenedAt: moment.optional(),
          body: z.record(z.string(), z.unknown()),
        })
        .nullable()
        .optional(),
    })
    .refine(
      ({ right, instead }) => (right === undefined) !== (instead === undefined),
      'either a figure or the whole entry as it should have been is accepted',
    ),
);

export const bookLine = z.strictObject({
  entryId: id,
  seq: z.int(),
  kind: z.string(),
  at: iso,
  recordedAt: iso,
  by: z.string(),
  what: z.string(),
  figure: z.string().nullable(),
  struck: z.array(z.string()),
  words: z.string().nullable(),
  /** All of it is struck out: it never happened, or belongs elsewhere. */
  struckOut: z.boolean(),
  correctable: z.boolean(),
  value: z.number().nullable(),
  sample: z.enum(SAMPLES).nullable(),
  lotCode: z.string(),
});

/** Everything that was recorded, a page of it. */
export const journalReply = z.strictObject({ lines: z.array(bookLine), next: z.string().nullable() });

/**
 * What may be chosen in fields that hold a key: the steps of a sheet, the answers to a house's question; by the field's
 * name. `where`: offered only beside that value of that field.
 */
export const entryChoices = z.record(
  z.string(),
  z.array(
    z.strictObject({
      id: z.string(),
      label: z.string(),
      where: z.strictObject({ field: z.string(), is: z.string() }).optional(),
    }),
  ),
);

/** One entry as it counts, for the form that puts it right. */
export const entryReply = z.strictObject({
  entryId: id,
  kind: z.string(),
  /** What such an entry is called. */
  what: z.string(),
  happenedAt: iso,
  recordedAt: iso,
  by: z.string(),
  body: z.record(z.string(), z.unknown()),
  /** It is said to have never happened. */
  never: z.boolean(),
  /** Why a line of this kind is not corrected, and what to do instead. */
  why: z.string().nullable(),
  ownerOnly: z.boolean(),
  /** What the ids in the body are called; `made`: the entry itself made it. */
  names: z.record(
    z.string(),
    z.strictObject({
      name: z.string(),
      made: z.boolean(),
      of: z.enum([
        'lot',
        'vessel',
        'material',
        'supplier',
        'room',
        'meter',
        'equipment',
        'customer',
        'person',
        'formula',
      ]),
    }),
  ),
  choices: entryChoices,
  corrections: z.array(z.strictObject({ at: iso, by: z.string(), reason: z.string(), never: z.boolean() })),
});

/** What a correction would change, before anybody confirms it. */
export const correctionReply = z.strictObject({
  changes: z.array(z.strictObject({ code: z.string(), what: z.string(), was: z.string(), now: z.string() })),
  /** Words that would not hold any more, and are asked for anew. */
  fell: z.array(z.string()),
  /** Codes of what never was. */
  undone: z.array(z.string()),
  /** How many later entries are written anew with it. */
  anew: z.int(),
});

export type BookLine = z.infer<typeof bookLine>;

export type JournalReply = z.infer<typeof journalReply>;

export type EntryChoices = z.infer<typeof entryChoices>;

export type EntryReply = z.infer<typeof entryReply>;

export type CorrectionReply = z.infer<typeof correctionReply>;
