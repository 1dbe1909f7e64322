import { z } from 'zod';
import { tallyReply } from './book.js';
import { bookLine } from './correcting.js';
import { workingReply } from './formulas.js';
import { runHeatReply } from './heat.js';
import { runReply } from './release.js';
import { iso, saltFigure } from './shape.js';
import { atDoor } from './stores.js';

const supply = z.strictObject({
  code: z.string(),
  name: z.string(),
  supplier: z.string().nullable(),
  theirs: z.string().nullable(),
  receivedAt: iso,
  useBy: z.string().nullable(),
  door: atDoor.nullable(),
  condition: z.string().nullable(),
  /** Of this lot, on the way to this run: into its batches, brines and finishes, for all that was made of them. */
  grams: z.number(),
  allergens: z.array(z.string()),
});

const onTheWay = z.strictObject({
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  at: iso,
  closedAt: iso.nullable(),
  vesselTag: z.string().nullable(),
  /** What was done with it to finish it. */
  finish: z.string().nullable(),
  grams: z.number(),
  /** Made for another batch, from which brine came: it has a dossier of its own. */
  elsewhere: z.boolean(),
});

const reading = z.strictObject({
  at: iso,
  value: z.number(),
  by: z.string(),
  sample: z.enum(['blended', 'brine']).nullable(),
  meter: z.string().nullable(),
  /** Counts for release; else why it does not. */
  counts: z.boolean(),
});

const vessel = z.strictObject({
  code: z.string(),
  vesselTag: z.string(),
  filledAt: iso,
  /** Days after filling by which 4.6 had to be reached; null where nobody knows its early days. */
  deadlineDays: z.number().nullable(),
  acid: z.string(),
  phs: z.array(reading),
  celsius: z.array(reading),
  checksMade: z.int(),
  /** Names of checks that were due before packing and never made. */
  missed: z.array(z.string()),
  salt: saltFigure,
});

/** Everything an inspector asks of one run, from its supplies to who has its jars. */
export const dossierReply = z.strictObject({
  house: z.string(),
  at: iso,
  acidLimit: z.number(),
  run: runReply,
  supplies: z.array(supply),
  lots: z.array(onTheWay),
  workings: z.array(
    z.strictObject({
      batchCode: z.string(),
      formula: z.string(),
      working: workingReply,
      inGrams: z.number(),
      targetGrams: z.number(),
      accepted: z.string().nullable(),
    }),
  ),
  vessels: z.array(vessel),
  heat: runHeatReply,
  tally: tallyReply,
  /** Of all of them, the oldest first; corrected figures stand struck beside the right ones. */
  lines: z.array(bookLine),
  /** Where the book of the house ended when this was written. */
  ledger: z.strictObject({ entries: z.int(), hash: z.string() }),
});

export type DossierReply = z.infer<typeof dossierReply>;
