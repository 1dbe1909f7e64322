import { z } from 'zod';
import { jarsAtPlace, lotInReach } from './recall.js';
import { id, iso } from './shape.js';

export const traceNode = z.strictObject({
  lotId: id,
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  column: z.int(),
  grams: z.number(),
  at: iso,
  origin: z.string(),
  supplier: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  hold: z.string().nullable(),
  detail: z.string().nullable(),
  /** Something of the lot asked about is in it. */
  forward: z.boolean(),
  /** When the first of it came in. */
  reachedAt: iso.nullable(),
  /** Only in because a vessel was not cleaned between two fillings. */
  carriedOver: z.boolean(),
  closed: z.boolean(),
  onHandGrams: z.number().nullable(),
  jars: z.int().nullable(),
  /** How many lots of a large way this one stands for. */
  folded: z.int().nullable(),
});

const jarsOfRun = z.strictObject({
  lotId: id,
  run: z.string(),
  name: z.string(),
  sizeMl: z.int(),
  first: z.string(),
  last: z.string(),
  count: z.int(),
  packedAt: iso,
});

export const traceReply = z.strictObject({
  subject: z.strictObject({
    kind: z.enum(['jar', 'lot', 'supply', 'vessel']),
    code: z.string(),
    title: z.string(),
    detail: z.string(),
    lotId: id,
    /** Jars, lids, labels: it goes onto jars, not into them. */
    packaging: z.boolean(),
  }),
  direction: z.enum(['back', 'forward', 'both']),
  nodes: z.array(traceNode),
  /** Each with the moment of its first movement. */
  flows: z.array(z.strictObject({ from: id, to: id, grams: z.number(), at: iso })),
  /** Vessels filled twice with no cleaning in between, asked for apart. */
  links: z.array(z.strictObject({ from: id, to: id, vesselTag: z.string(), at: iso })),
  jars: z.array(jarsOfRun),
  jarCount: z.int(),
  /** All lots of the way and all ranges of jars, shown or folded; what it went into and could be held now. */
  lots: z.int(),
  ranges: z.int(),
  mayHold: z.int(),
  beforeLedger: z.boolean(),
  milliseconds: z.number(),
});

/** What a fold of a large way stands for, by page. */
export const foldedReply = z.strictObject({
  nodes: z.array(traceNode),
  jars: z.array(jarsOfRun),
  many: z.int(),
  page: z.int(),
});

export const codeReply = z.strictObject({
  kind: z.enum(['jar', 'lot', 'supply', 'vessel']),
  code: z.string(),
  lotId: id.nullable(),
});

export type TraceNode = z.infer<typeof traceNode>;

export type TraceReply = z.infer<typeof traceReply>;

export type FoldedReply = z.infer<typeof foldedReply>;

export type CodeReply = z.infer<typeof codeReply>;

/** What is no lot, and has to do with many: asked about, it answers with all it touched. */
export const ASKED_BY = ['customer', 'day', 'person', 'meter', 'room', 'vessel', 'packaging'] as const;

export const askedByReply = z.strictObject({
  by: z.enum(ASKED_BY),
  id: z.string(),
  title: z.string(),
  /** Lots it touched, the newest first, with what it had to do with each. */
  lots: z.array(lotInReach.omit({ carryOver: true }).extend({ at: iso, why: z.string(), doubtful: z.boolean() })),
  /** There are more than are shown. */
  more: z.boolean(),
  /** Jars of these lots and of all that was made of them; of a customer, those sent there. */
  places: z.array(jarsAtPlace),
  runs: z.int(),
  jars: z.int(),
  milliseconds: z.number(),
});

export type AskedBy = (typeof ASKED_BY)[number];
export type AskedByReply = z.infer<typeof askedByReply>;
