import { LOSSES } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, grams, gramsOrNone, id, text } from './shape.js';

/** All that stands in it goes out, and the vessel is empty. */
export const vesselThrowOut = entryOf(
  'vessel.throwOut',
  z.strictObject({ lotId: id, cause: text(200), note: text(500).nullable() }),
);

/** What ran over or evaporated, and the brine that takes its place. */
export const vesselTopUp = entryOf(
  'vessel.topUp',
  z.strictObject({
    lotId: id,
    how: z.enum(['overflow', 'evaporation']),
    lostGrams: grams,
    saltLotId: id.nullable(),
    saltGrams: gramsOrNone,
    waterLotId: id,
    waterGrams: gramsOrNone,
    /** A reviewer's reason for a vessel thinned under 1.5 % salt in the water phase. */
    weakSaltReason: text(500).optional(),
  }),
);

/** Part of a vessel into a free one, followed on its own from here on. */
export const vesselSplit = entryOf(
  'vessel.split',
  z.strictObject({ fromLotId: id, fillLotId: id, vesselId: id, grams }),
);

/** A weighed loss: every gram that is gone has a reason. */
export const lossRecord = entryOf(
  'loss.record',
  z.strictObject({ lotId: id, sink: z.enum(LOSSES), grams, note: text(300).nullable() }),
);
