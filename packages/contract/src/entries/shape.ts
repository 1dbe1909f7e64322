import { z } from 'zod';

/** Ids are made by the client, so that an entry can be repeated without being recorded twice. */
export const id = z.uuid();
export const text = (most = 200) => z.string().trim().min(1).max(most);
/** A photo kept beside the journal, by the SHA-256 of its bytes. */
export const photoId = z.string().regex(/^[0-9a-f]{64}$/, 'the SHA-256 of a photo');
/** Grams as weighed. Sign and size are judged by core, which answers in the trade's words. */
export const grams = z.number();
export const fraction = z.number();

/** A schema of one entry kind. */
export const entryOf = <K extends string, B extends z.ZodType>(kind: K, body: B) =>
  z.strictObject({
    id,
    kind: z.literal(kind),
    /** When it happened, with offset. */
    happenedAt: z.iso.datetime({ offset: true }),
    /** The person who did it. */
    by: id,
    device: text(80),
    body,
  });
