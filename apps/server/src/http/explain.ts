import { type Problem, type ProblemCode, unlike } from '@clear-tally/contract';
import { shortened } from '@clear-tally/core';
import type { Logger } from 'pino';
import { z } from 'zod';
import { Refused } from '../journal/refused.js';

/** Constraints of the tables that a person can run into, in their words. */
const CONSTRAINTS: Record<string, { code: ProblemCode; detail: string }> = {
  lot_vessel_taken: { code: 'vessel.taken', detail: 'This vessel was filled meanwhile. Choose a free one.' },
  step_ended_once: {
    code: 'making.stepDone',
    detail: 'Somebody finished this step meanwhile. Nothing was recorded twice.',
  },
};

/** What PostgreSQL says of values that its columns cannot hold, checks among them. */
const UNHOLDABLE: ReadonlySet<string> = new Set([
  '22001',
  '22003',
  '22007',
  '22008',
  '22021',
  '22023',
  '22P02',
  '22P03',
  '22P05',
  '23514',
  '23502',
]);

/** It is not there, is starting or ending, is out of connections, or took longer than it may. */
const BUSY: ReadonlySet<string> = new Set([
  '57P01',
  '57P02',
  '57P03',
  '57014',
  '55P03',
  '25P03',
  '40001',
  '40P01',
  '53300',
  '08000',
  '08001',
  '08003',
  '08004',
  '08006',
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
]);

const FULL: ReadonlySet<string> = new Set(['53100', '58030', 'ENOSPC']);

/**
 * A fault as it is logged: what failed, where, by which code. Never its parameters: in them stand names, notes and pictures.
 */
export function faultOf(error: unknown): { fault: string; code?: string; query?: string; stack?: string } {
  const cause = ((error as { cause?: unknown }).cause ?? error) as {
    message?: string;
    code?: string;
    stack?: string;
    name?: string;
  };
  const query = (error as { query?: unknown }).query;
  const stack = String((error as Error).stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
    .join('\n');
  const fault =
    query === undefined
      ? `${cause.name ?? 'Error'}: ${shortened(String(cause.message ?? error), 300)}`
      : `${cause.name ?? 'Error'}: ${shortened(String(cause.message ?? '').replace(/"[^"]*"$/, '"…"'), 160)}`;
  return {
    fault,
    ...(cause.code ? { code: cause.code } : {}),
    ...(typeof query === 'string' ? { query: shortened(query.replace(/\s+/g, ' '), 200) } : {}),
    stack,
  };
}

export type Explained = Pick<Problem, 'code' | 'detail' | 'field' | 'facts' | 'entry'>;

/** What is answered to what went wrong: a refusal in its own words, a fault without its text. */
export function explain(error: unknown, log: Logger): Explained {
  if (error instanceof Refused) {
    const { code, message, field, facts } = error.refusal;
    return { code, detail: message, field, facts: facts as Record<string, unknown> | undefined, entry: error.entry };
  }
  if (error instanceof z.ZodError) return shapeProblem(error);
  // The driver's error is the cause of the query builder's.
  const cause = (error as { cause?: unknown }).cause ?? error;
  const { code, constraint, detail } = cause as { code?: string; constraint?: string; detail?: string };
  if (constraint && CONSTRAINTS[constraint]) return CONSTRAINTS[constraint];
  if (code === '23505') {
    const what = /\(([^)]+)\)=\(([^)]+)\)/.exec(detail ?? '');
    return {
      code: 'name.taken',
      detail: `${what ? `“${what[2]}”` : 'This name or code'} is taken already. Choose another.`,
      field: what?.[1],
    };
  }
  if (code === '23503')
    return {
      code: 'lot.unknown',
      detail: 'Something this entry refers to is not known in this house. Choose it from the list.',
    };
  if (code && UNHOLDABLE.has(code))
    return {
      code: 'figure.outOfRange',
      detail:
        'A figure or a text in it is smaller, larger or other than this book can hold. Nothing was recorded: look at the units and the decimal marks.',
    };
  if (code && FULL.has(code))
    return {
      code: 'server.full',
      detail:
        'The disk of this house’s database is full. Nothing was recorded, nothing recorded is lost: make room on it, then press again. What you typed is kept.',
    };
  const status = (error as { status?: number }).status;
  if (status === 413)
    return {
      code: 'shape.tooLarge',
      detail: 'This is too large: up to 2 MB are accepted at once. Nothing was recorded: send it in parts.',
    };
  if (status === 400 || status === 415)
    return { code: 'shape.malformedJson', detail: 'The body is not JSON. Send application/json in UTF-8.' };
  if (
    (code && BUSY.has(code)) ||
    /Connection terminated|timeout exceeded|timeout expired|Query read timeout|Client has encountered a connection error/.test(
      String((cause as Error).message),
    )
  ) {
    return {
      code: 'server.busy',
      detail: 'The database does not answer at the moment. What you typed is kept: try again shortly.',
    };
  }
  if (status !== undefined && status >= 400 && status < 500)
    return status === 404
      ? { code: 'resource.unknown', detail: 'There is nothing at this address.' }
      : {
          code: 'request.unreadable',
          detail: 'This address cannot be read. Look at it, or go there through the pages.',
        };
  log.error(faultOf(error), 'fault');
  return {
    code: 'server.fault',
    detail:
      'Something went wrong in the server. Nothing was recorded. Try again; if it stays, look at the server’s log.',
  };
}

function shapeProblem(error: z.ZodError): Explained {
  const { issues, ...said } = unlike(error);
  return { code: 'shape.invalid', ...said, facts: { issues } };
}
