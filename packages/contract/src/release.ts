import { GAS_SAYS, LOOK_SAYS, RELEASE_KEYS, RUN_CHECKS, STORAGES } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, id, iso, ms, photoId, text } from './shape.js';

/** A packed run is looked at: one jar opened for its gas, level, seals, a retained jar tasted. */
export const runCheck = entryOf(
  'run.check',
  z
    .strictObject({
      runLotId: id,
      what: z.enum(RUN_CHECKS),
      says: z.enum([...GAS_SAYS, ...LOOK_SAYS]),
      /** Serial of the jar that was opened: it is gone then. */
      opened: z.int().min(1).max(99_999).nullable(),
      note: text(300).nullable(),
      photo: photoId.nullable(),
    })
    .refine(
      ({ what, says }) => (what === 'gas') === (GAS_SAYS as readonly string[]).includes(says),
      'gas is quiet, slight, lively or gushes; the others are fine or notFine',
    ),
);

/** Where a run is kept from now on: what is lively goes cold. */
export const runStore = entryOf(
  'run.store',
  z.strictObject({ runLotId: id, storage: z.enum(STORAGES), reason: text(300) }),
);

/** Signed by a reviewer with their own PIN: the run may leave. */
export const runRelease = entryOf(
  'run.release',
  z.strictObject({
    runLotId: id,
    /** What a reviewer excuses in writing, by its condition. */
    excuses: z.partialRecord(z.enum(RELEASE_KEYS), text(500)),
  }),
);

/** Taken back: nothing more of it leaves. */
export const runWithdraw = entryOf('run.withdraw', z.strictObject({ runLotId: id, reason: text(500) }));

const condition = z.strictObject({
  key: z.enum(RELEASE_KEYS),
  words: z.string(),
  state: z.enum(['met', 'excused', 'open']),
  now: z.string(),
  wayOn: z.string().nullable(),
  mayExcuse: z.boolean(),
});

const runState = z.enum(['waits', 'released', 'withdrawn']);

const checkDue = z.strictObject({
  what: z.enum([...RUN_CHECKS, 'ph']),
  words: z.string(),
  from: ms,
  due: ms,
  state: z.enum(['later', 'due', 'late']),
});

const runLine = z.strictObject({
  lotId: id,
  code: z.string(),
  name: z.string(),
  packedAt: iso,
  packedBy: z.string(),
  storage: z.enum(STORAGES).nullable(),
  state: runState,
  hold: z.string().nullable(),
  jars: z.int(),
  inHouse: z.int(),
  open: z.int(),
  checks: z.array(checkDue),
});

export const runsReply = z.strictObject({ now: iso, runs: z.array(runLine) });

const serials = z.strictObject({ first: z.int(), last: z.int() });

/** Where jars are, in words: a room of the house, a customer, or gone. */
export const jarStretch = serials.extend({
  firstCode: z.string(),
  lastCode: z.string(),
  count: z.int(),
  sizeMl: z.int(),
  kind: z.enum(['house', 'customer', 'gone']),
  roomId: id.nullable(),
  customerId: id.nullable(),
  where: z.string(),
  since: iso.nullable(),
  /** Why it is not sold, where something stands in the way of just these jars: they came back, their load failed. */
  kept: z.string().nullable(),
});

/** Of vessels before anything is packed from them: the same list, as far as it shows by now. */
export const aheadReply = z.strictObject({
  conditions: z.array(condition.omit({ mayExcuse: true }).extend({ state: z.enum(['met', 'open', 'later']) })),
});
export type AheadReply = z.infer<typeof aheadReply>;

export const runReply = z.strictObject({
  run: runLine.omit({ open: true }),
  conditions: z.array(condition),
  /** Jars that a release lets go: those in the house that their heat does not hold. */
  leaving: z.int(),
  /** Bottles that settle first: whether they are closed for good by now. */
  closing: z.strictObject({ later: z.boolean(), done: z.boolean() }),
  /** Of a released run: what stands open by what is known now. */
  openSince: z.array(z.string()),
  /** What the reader alone cannot change: who may sign. */
  maySign: z.boolean(),
  signatures: z.array(
    z.strictObject({
      at: iso,
      by: z.string(),
      what: z.enum(['released', 'withdrawn']),
      reason: z.string().nullable(),
      own: z.boolean(),
      excuses: z.array(z.strictObject({ words: z.string(), reason: z.string() })),
    }),
  ),
  made: z.array(
    z.strictObject({ at: iso, by: z.string(), what: z.string(), says: z.string(), note: z.string().nullable() }),
  ),
  jars: z.array(jarStretch),
  /** Who has jars of this run or of one packed from the same vessels. */
  holders: z.array(z.strictObject({ customerId: id, name: z.string(), run: z.string(), count: z.int() })),
  vessels: z.array(z.strictObject({ code: z.string(), vesselTag: z.string() })),
  /** How far retained jars of this formula carry the shelf life its label gives. */
  shelf: z.strictObject({
    labelDays: z.int().nullable(),
    days: z.int().nullable(),
    run: z.string().nullable(),
    against: z.strictObject({ days: z.int(), run: z.string() }).nullable(),
    says: z.enum(['supported', 'short', 'against', 'none']),
  }),
  /** What stood beside its jars at packing. */
  packing: z.strictObject({
    cleared: z.boolean(),
    weights: z.array(
      z.strictObject({
        sizeMl: z.int(),
        netGrams: z.number(),
        n: z.int(),
        mean: z.number(),
        spread: z.number(),
        least: z.number(),
        tolerable: z.number(),
        short: z.int(),
        says: z.enum(['fine', 'light', 'short']),
      }),
    ),
    closures: z.array(serials.extend({ code: z.string(), name: z.string(), theirs: z.string().nullable() })),
    retained: z.array(serials.extend({ place: z.string(), tasteAt: z.array(iso), left: z.int() })),
  }),
});

export type RunsReply = z.infer<typeof runsReply>;
export type RunReply = z.infer<typeof runReply>;
export type JarStretch = z.infer<typeof jarStretch>;
