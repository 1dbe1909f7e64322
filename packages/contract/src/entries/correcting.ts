import { z } from 'zod';
import { entryOf, grams, id, moment, text } from './shape.js';
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
