import { REFUSAL_CODES, type RefusalCode } from '@clear-tally/core';

/** Codes the server adds to core's: who, shape, size, repetition. */
export const SERVER_CODES = [
  'shape.malformedJson',
  'shape.invalid',
  'shape.tooLarge',
  'who.signIn',
  'who.notAllowed',
  'who.otherPerson',
  'who.wrongPin',
  'who.locked',
  'who.tooOften',
  'who.origin',
  'who.longerPin',
  'who.signAgain',
  'entry.idReused',
  'record.unreadable',
  'request.unreadable',
  'request.notAcceptable',
  'figure.outOfRange',
  'server.full',
  'resource.unknown',
  'pack.tallyOpen',
  'server.fault',
  'server.busy',
] as const;
export type ProblemCode = RefusalCode | (typeof SERVER_CODES)[number];

export const PROBLEM_CODES: readonly ProblemCode[] = [...REFUSAL_CODES, ...SERVER_CODES];

/** Problem details (RFC 9457) as every refusal is answered. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly code: ProblemCode;
  readonly detail: string;
  readonly field?: string;
  readonly facts?: Record<string, unknown>;
  /** Which of the entries sent together it was. */
  readonly entry?: number;
}
