import { HOLD_RULE_KEYS } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, id, iso, ms, text } from './shape.js';

export const holdPlace = entryOf(
  'hold.place',
  z.strictObject({
    lotId: id,
    reason: text(500),
    /** Also on everything made of it. */ downstream: z.boolean().optional(),
    /** Also on these, chosen of what it went into. */ also: z.array(id).max(500).optional(),
  }),
);

export const holdLift = entryOf(
  'hold.lift',
  z.strictObject({
    lotId: id,
    reason: text(500),
    /** One hold of several; without it the one there is. */ holdId: id.optional(),
  }),
);

/** Written by the house’s rules themselves. */
export const holdByRule = entryOf(
  'hold.byRule',
  z.strictObject({ lotId: id, rule: z.enum(['late', 'rising', 'throwOut']), reason: text(500) }),
);

/** A rule's hold decided anew, because a reading it rests on was corrected: it does not stand. */
export const holdAnew = entryOf(
  'hold.anew',
  z.strictObject({ lotId: id, holdId: id, rule: z.enum(['late', 'rising', 'throwOut']), reason: text(500) }),
);

export const openHold = z.strictObject({
  entryId: id,
  rule: z.enum(HOLD_RULE_KEYS),
  reason: z.string(),
  placedAt: ms,
  further: z.boolean(),
  /** Whether a reviewer may end it now, and if not why. */ mayLift: z.string().nullable(),
});

/** What was taken from a vessel, and what became of it. */
export const reachReply = z.strictObject({
  /** Its last reading in order; null when it has none. */
  since: z.strictObject({ at: iso, ph: z.number() }).nullable(),
  taken: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      vesselTag: z.string().nullable(),
      hold: z.string().nullable(),
      closed: z.boolean(),
      jars: z.int().nullable(),
      at: iso,
      grams: z.number(),
      /** It left after that reading. */ since: z.boolean(),
    }),
  ),
});

export type ReachReply = z.infer<typeof reachReply>;
