import { z } from 'zod';
import { entryOf, grams, id, text } from './shape.js';
import { SAMPLES } from './watching.js';

export const CORRECTABLE_KINDS = ['salt.weigh', 'ph.read', 'temperature.read'] as const;

/** Cancels an entry's figure and gives the right one; both stay visible. */
export const entryCorrect = entryOf(
  'entry.correct',
  z.strictObject({
    corrects: id,
    reason: text(300),
    right: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('salt.weigh'), grams }),
      z.strictObject({
        kind: z.literal('ph.read'),
        ph: z.number(),
        sample: z.enum(SAMPLES),
        confirmedUnusual: z.boolean().optional(),
      }),
      z.strictObject({ kind: z.literal('temperature.read'), celsius: z.number() }),
    ]),
  }),
);
