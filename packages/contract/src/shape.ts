import { dayWords, EARLIEST_DAY, isRecordable, isRecordableDay, SALT_BANDS, type SaltBand } from '@clear-tally/core';
import { z } from 'zod';

/** Ids are made by the client, so that an entry can be repeated without being recorded twice. */
export const id = z.uuid().toLowerCase();

export const text = (most = 200) => z.string().trim().min(1).max(most);

/** A photo kept beside the journal, by the SHA-256 of its bytes. */
export const photoId = z.string().regex(/^[0-9a-f]{64}$/, 'the SHA-256 of a photo');

const NO_SPECK = 'less than a milligram was given; a milligram or more is accepted, or nothing';

const isSpeck = (mass: number): boolean => mass > 0 && mass < 0.001;

/** Grams as weighed. Sign and size are judged by core, which answers in the trade's words; the ledger counts milligrams. */
export const grams = z.number().refine((mass) => !isSpeck(mass), NO_SPECK);

/** Grams of what may be nothing. */
export const gramsOrNone = z
  .number()
  .min(0)
  .refine((mass) => !isSpeck(mass), NO_SPECK);

export const fraction = z.number();

/** A calendar day that a book can hold. */
export const day = z.iso.date().refine(isRecordableDay, { error: ({ input }) => dayWords(String(input)) });

/** A moment with its offset, strictly ISO. */
export const moment = z.iso
  .datetime({ offset: true })
  .refine(
    (at) => isRecordable(Date.parse(at)),
    `a moment from ${EARLIEST_DAY} on is accepted, its year in four figures`,
  );

/** A schema of one entry kind. */
export const entryOf = <K extends string, B extends z.ZodType>(kind: K, body: B) =>
  z.strictObject({
    id,
    kind: z.literal(kind),
    /** When it happened, with offset. */
    happenedAt: moment,
    /** The person who did it. */
    by: id,
    device: text(80),
    body,
  });

export const iso = z.iso.datetime({ offset: true });

/** The salt of a vessel on the scales that are compared; null where nobody knows what went in. */
export const saltFigure = z.strictObject({
  waterPhase: z.number().nullable(),
  ofEverything: z.number().nullable(),
  ofVegetable: z.number().nullable(),
  band: z.enum(SALT_BANDS.map(({ band }) => band) as [SaltBand, ...SaltBand[]]).nullable(),
});

export const houseBandOf = z.strictObject({ state: z.enum(['under', 'in', 'over']), words: z.string() }).nullable();

/** What stands in bowls, a brine, a vessel. */
export const contents = z.strictObject({
  grams: z.number(),
  waterGrams: z.number(),
  saltGrams: z.number(),
  vegetableGrams: z.number(),
  known: z.boolean(),
});

/** A vessel whose record cannot be read, beside those that can. */
export const unreadable = z.strictObject({
  lotId: id,
  code: z.string(),
  batchCode: z.string(),
  vesselTag: z.string(),
  words: z.string(),
});

export const ms = z.number();

export type ContentsReply = z.infer<typeof contents>;

export type SaltFigureReply = z.infer<typeof saltFigure>;
