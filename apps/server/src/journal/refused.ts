import type { ProblemCode } from '@clear-tally/contract';
import type { Outcome, Refusal } from '@clear-tally/core';

/** Rolls a transaction back with a refusal; the only exception that is not a bug. */
export class Refused extends Error {
  /** Which of the entries sent together it was. */
  entry?: number;
  constructor(readonly refusal: Omit<Refusal, 'code'> & { readonly code: ProblemCode }) {
    super(refusal.message);
  }
}

/** The accepted value, or the refusal thrown. */
export function must<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Refused(outcome.refusal);
  return outcome.value;
}

export function refused(
  code: ProblemCode,
  message: string,
  more: { field?: string; facts?: Record<string, unknown> } = {},
): Refused {
  return new Refused({ code, message, ...more });
}
