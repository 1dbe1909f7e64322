import { ANSWERS, CAUSE_KINDS, COMPLAINT_OUTCOMES, COMPLAINTS, RECALL_SCOPES } from '@clear-tally/core';
import { z } from 'zod';
import { tallyReply } from './book.js';
import { entryOf, id, iso, moment, photoId, text } from './shape.js';

const serial = z.int().min(1).max(99_999);

/** A recall, or a drill of one: the suspect, how far it reaches, and everything of it frozen at once. */
export const recallOpen = entryOf(
  'recall.open',
  z.strictObject({
    recallId: id,
    lotId: id,
    scope: z.enum(RECALL_SCOPES),
    /** Also vessels that were filled next without being cleaned. */
    carryOver: z.boolean(),
    /** Marked as one, and nothing is held. */
    drill: z.boolean(),
    reason: text(500),
    /** Who told of it, and how. */
    source: text(200).nullable(),
    /** When word of it came: the clock starts then. */
    heardAt: moment,
  }),
);

/** Word went to these customers. */
export const recallNotice = entryOf(
  'recall.notice',
  z.strictObject({
    recallId: id,
    customerIds: z.array(id).min(1).max(200),
    how: z.enum(['mail', 'phone', 'paper']),
    /** The notice, where it was changed. */
    words: text(4000).nullable(),
  }),
);

/** What was answered for jars outside: so many of a place, and what became of them. */
export const recallAnswer = entryOf(
  'recall.answer',
  z.strictObject({
    recallId: id,
    /** A customer's id, or how they are gone. */
    place: text(60),
    count: z.int().min(1).max(99_999),
    answer: z.enum(ANSWERS),
    note: text(300).nullable(),
  }),
);

export const recallClose = entryOf(
  'recall.close',
  z.strictObject({
    recallId: id,
    /** What came of it, in words. */
    outcome: text(1000),
    /** Of jars that nobody can account for. */
    restReason: text(500).nullable(),
  }),
);

/** A complaint on a jar. Who complained is kept apart from it, and can be deleted. */
export const complaintTake = entryOf(
  'complaint.take',
  z.strictObject({
    complaintId: id,
    runLotId: id,
    /** Null: nobody knows which jar of the run. */
    serial: serial.nullable(),
    what: z.enum(COMPLAINTS),
    words: text(1000),
    photo: photoId.nullable(),
    /** Holds its run with it. */
    hold: z.boolean(),
    /** Why a grave complaint holds nothing. */
    noHoldReason: text(300).nullable(),
  }),
);

export const complaintClose = entryOf(
  'complaint.close',
  z.strictObject({ complaintId: id, outcome: z.enum(COMPLAINT_OUTCOMES), words: text(1000) }),
);

export const jarsAtPlace = z.strictObject({
  key: z.string(),
  kind: z.enum(['house', 'customer', 'gone']),
  name: z.string(),
  jars: z.int(),
  accounted: z.int(),
  /** Not accounted for, answered or not. */
  open: z.int(),
  /** Of those open, what nobody has answered for. */
  unanswered: z.int(),
  /** Jars by run and number, oldest first. */
  stretches: z.array(
    z.strictObject({
      run: z.string(),
      name: z.string(),
      sizeMl: z.int(),
      first: z.string(),
      last: z.string(),
      count: z.int(),
    }),
  ),
  contact: z.string().nullable(),
  address: z.string().nullable(),
  notice: z.strictObject({ at: iso, by: z.string(), how: z.string(), words: z.string().nullable() }).nullable(),
  answers: z.array(
    z.strictObject({ at: iso, by: z.string(), count: z.int(), answer: z.enum(ANSWERS), note: z.string().nullable() }),
  ),
});

export const lotInReach = z.strictObject({
  lotId: id,
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  vesselTag: z.string().nullable(),
  live: z.boolean(),
  onHandGrams: z.number().nullable(),
  held: z.boolean(),
  /** It is in only because a vessel was not cleaned before it. */
  carryOver: z.boolean(),
});

const reach = z.strictObject({
  subject: z.strictObject({
    lotId: id,
    code: z.string(),
    kind: z.string(),
    name: z.string(),
    supplier: z.string().nullable(),
    supplierLotCode: z.string().nullable(),
  }),
  lots: z.array(lotInReach),
  places: z.array(jarsAtPlace),
  jars: z.int(),
  runs: z.int(),
  customers: z.int(),
});

/** What a recall of a lot would reach, before it is opened. */
export const recallAheadReply = reach.extend({
  /** A recall or drill of the same that is open already. */
  already: z.strictObject({ code: z.string(), drill: z.boolean() }).nullable(),
  milliseconds: z.number(),
});

export const recallReply = reach.extend({
  recallId: id,
  code: z.string(),
  drill: z.boolean(),
  scope: z.enum(RECALL_SCOPES),
  carryOver: z.boolean(),
  reason: z.string(),
  source: z.string().nullable(),
  heardAt: iso,
  openedAt: iso,
  by: z.string(),
  accounted: z.int(),
  open: z.int(),
  closed: z
    .strictObject({ at: iso, by: z.string(), outcome: z.string(), restReason: z.string().nullable() })
    .nullable(),
});

export const recallsReply = z.strictObject({
  recalls: z.array(
    z.strictObject({
      recallId: id,
      code: z.string(),
      drill: z.boolean(),
      what: z.string(),
      lotCode: z.string(),
      openedAt: iso,
      by: z.string(),
      jars: z.int(),
      open: z.int(),
      closedAt: iso.nullable(),
      minutesToList: z.number(),
    }),
  ),
  /** The next drill, by the house's own rhythm. */
  drillDue: iso,
  drillLate: z.boolean(),
  /** What was bought last, to choose from. */
  supplies: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      name: z.string(),
      supplier: z.string().nullable(),
      theirs: z.string().nullable(),
    }),
  ),
});

const complaint = z.strictObject({
  complaintId: id,
  code: z.string(),
  at: iso,
  by: z.string(),
  run: z.string(),
  runLotId: id,
  name: z.string(),
  jar: z.string().nullable(),
  what: z.enum(COMPLAINTS),
  words: z.string(),
  photo: z.string().nullable(),
  held: z.boolean(),
  noHoldReason: z.string().nullable(),
  /** The run stands on hold now. */
  runHeld: z.boolean(),
  contact: z.string().nullable(),
  closed: z
    .strictObject({ at: iso, by: z.string(), outcome: z.enum(COMPLAINT_OUTCOMES), words: z.string() })
    .nullable(),
});

export const complaintsReply = z.strictObject({
  complaints: z.array(complaint),
  /** Runs with two complaints or more in ninety days: what have they in common? */
  again: z.array(z.strictObject({ run: z.string(), name: z.string(), count: z.int() })),
});

/** Who complained: kept beside the book, not in it. */
export const complaintContact = z.strictObject({ words: text(400) });

/** Bad jars, or runs, as their codes were typed. */
export const causeRequest = z.strictObject({ bad: z.array(z.string().trim().min(1).max(120)).min(1).max(60) });

export const causeReply = z.strictObject({
  bad: z.array(z.strictObject({ code: z.string(), run: z.string(), name: z.string() })),
  /** Packing runs they were compared with: packed within so many days before and after. */
  good: z.int(),
  days: z.int(),
  compared: z.int(),
  causes: z.array(
    z.strictObject({
      traits: z.array(z.strictObject({ kind: z.enum(CAUSE_KINDS), words: z.string(), code: z.string().nullable() })),
      badWith: z.int(),
      bad: z.int(),
      goodWith: z.int(),
      good: z.int(),
      p: z.number(),
      says: z.enum(['hardlyChance', 'unusual', 'mayBeChance']),
    }),
  ),
  milliseconds: z.number(),
});

export type RecallAheadReply = z.infer<typeof recallAheadReply>;
export type RecallReply = z.infer<typeof recallReply>;
export type RecallsReply = z.infer<typeof recallsReply>;
export type ComplaintsReply = z.infer<typeof complaintsReply>;
export type CauseReply = z.infer<typeof causeReply>;

/** Lots whose tally does not close. */
export const talliesReply = z.strictObject({
  lots: z.array(z.strictObject({ lotId: id, code: z.string(), kind: z.string(), name: z.string(), tally: tallyReply })),
  looked: z.int(),
  /** Every candidate was looked at; false: only the newest. */
  all: z.boolean(),
});
export type TalliesReply = z.infer<typeof talliesReply>;
