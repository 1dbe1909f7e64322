import type { Outcome } from '@clear-tally/core';
import { Refused } from './refused.js';

/**
 * What was done was done: when an entry is written anew because one before it was put right, the questions that were
 * asked before it was done are not asked again. What cannot have been (more taken than there was, a lot that never
 * was) is refused as ever.
 *
 * `holds`: the right entry itself, asked all but for holds. `all`: what rests on it. `replay`: another book accepted it, by
 * the rules of its day: it is written as it was, and nothing that a later rule would say is added.
 */
export type Lenience = 'holds' | 'all' | 'replay';

interface Lenient {
  readonly how: Lenience;
  /** Where the entry stands in the journal that is written anew: what came after it had not happened yet. */
  readonly seq: number;
}

const lenient = new WeakMap<object, Lenient>();

/** Runs work in a transaction that asks no more than it says. */
export async function asItHappened<T>(tx: object, as: Lenient, work: () => Promise<T>): Promise<T> {
  const before = lenient.get(tx);
  lenient.set(tx, as);
  try {
    return await work();
  } finally {
    if (before) lenient.set(tx, before);
    else lenient.delete(tx);
  }
}

/** A hold that stands today did not keep anybody from taking it then. */
export const heldPasses = (tx: object): boolean => lenient.has(tx);

/** The place in the journal of the entry that is written anew; null when it is a new one. */
export const placeOf = (tx: object): number | null => lenient.get(tx)?.seq ?? null;

export const happened = (tx: object): boolean => lenient.get(tx)?.how === 'all' || isReplay(tx);

/** It was accepted by the rules of its day, and is only written again. */
export const isReplay = (tx: object): boolean => lenient.get(tx)?.how === 'replay';

/** A question asked before something is done: refused then, and no matter afterwards. */
export function ask(tx: object, outcome: Outcome<unknown>): void {
  if (!outcome.ok && !happened(tx)) throw new Refused(outcome.refusal);
}

/** Somebody's word on how things stood: when they stood otherwise, the word falls, and is asked for anew. */
export class Falls extends Error {}
