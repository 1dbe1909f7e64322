import { FINDING_KEYS, PLACE_KEYS, VERDICTS } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, id, photoId, text } from './shape.js';

export const findRecord = entryOf(
  'find.record',
  z.strictObject({
    lotId: id,
    finding: z.enum(FINDING_KEYS),
    place: z.enum(PLACE_KEYS),
    verdict: z.enum(VERDICTS),
    reason: text(500).nullable(),
    note: text(500).nullable(),
    photo: photoId.nullable(),
    /** What was taken from the vessel and is held with it; without this everything since its last reading in order. */
    reach: z.strictObject({ hold: z.array(id).max(500), leftOutReason: text(300).nullable() }).optional(),
  }),
);

export const judgeReply = z.strictObject({
  verdict: z.enum(VERDICTS),
  reasons: z.array(z.string()).readonly(),
  todo: z.array(z.string()).readonly(),
  facts: z.record(z.string(), z.unknown()),
});

export type JudgeReply = z.infer<typeof judgeReply>;
