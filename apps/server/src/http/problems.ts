import { type Problem, type ProblemCode, unlike } from '@clear-tally/contract';
import { shortened } from '@clear-tally/core';
import type { Context, Next } from 'koa';
import type { Logger } from 'pino';
import { z } from 'zod';
import { Refused } from '../journal/refused.js';

/** The status of every code. A new code without one does not compile. */
export const STATUS = {
  'shape.malformedJson': 400,
  'shape.invalid': 400,
  'shape.tooLarge': 413,
  'who.signIn': 401,
  'who.wrongPin': 401,
  'who.notAllowed': 403,
  'who.otherPerson': 403,
  'who.locked': 429,
  'who.tooOften': 429,
  'who.origin': 403,
  'who.signAgain': 403,
  'who.longerPin': 403,
  'request.unreadable': 400,
  'request.notAcceptable': 406,
  'resource.unknown': 404,
  'code.unknown': 404,
  'entry.idReused': 409,
  'name.taken': 409,
  'vessel.taken': 409,
  'lot.overdrawn': 409,
  'lot.notYet': 409,
  'correction.standsInTheWay': 409,
  'correction.ofCorrection': 409,
  'lot.closed': 409,
  'lot.onHold': 409,
  'lot.notOnHold': 409,
  'mass.notPositive': 422,
  'mass.absurd': 422,
  'mass.volumeOfSolid': 422,
  'quantity.unreadable': 422,
  'quantity.ambiguous': 422,
  'quantity.unknownUnit': 422,
  'fraction.percentTyped': 422,
  'time.future': 422,
  'ph.outOfScale': 422,
  'ph.askAgain': 422,
  'temperature.outOfRange': 422,
  'lot.unknown': 422,
  'lot.wrongKind': 422,
  'vessel.unknown': 422,
  'vessel.overfull': 422,
  'vessel.outOfUse': 422,
  'salt.overTarget': 422,
  'salt.outOfTolerance': 422,
  'salt.weakNeedsReviewer': 422,
  'salt.nothingToSalt': 422,
  'pack.noPh': 422,
  'pack.phAboveLimit': 422,
  'pack.twoReadings': 422,
  'pack.late': 422,
  'pack.rising': 422,
  'starter.useBy': 422,
  'leaf.saltNotMeasured': 422,
  'lot.otherFormula': 409,
  'rule.outside': 422,
  'rule.notTogether': 409,
  'pack.differentBatches': 422,
  'pack.nothing': 422,
  'pack.ambient': 422,
  'stock.keptBrine': 422,
  'brine.difference': 422,
  'brine.spicesUnknown': 422,
  'hold.notTaken': 409,
  'hold.leftOut': 422,
  'material.allergenAsked': 422,
  'making.stepOpen': 422,
  'line.alwaysWeighed': 422,
  'line.lotUnknown': 422,
  'pack.restOpen': 422,
  'finish.restarts': 422,
  'finish.notMeasured': 422,
  'finish.not': 422,
  'pack.weightsMissing': 422,
  'pack.closuresShort': 422,
  'jar.retained': 409,
  'order.unknown': 404,
  'order.closed': 409,
  'vessel.tagStays': 409,
  'recall.unknown': 404,
  'recall.closed': 409,
  'recall.open': 409,
  'recall.heardLater': 422,
  'recall.notThere': 422,
  'recall.tooMany': 422,
  'recall.restOpen': 422,
  'complaint.grave': 422,
  'complaint.unknown': 404,
  'complaint.closed': 409,
  'release.open': 409,
  'release.already': 409,
  'release.notReleased': 409,
  'release.storage': 409,
  'label.claim': 422,
  'label.again': 409,
  'label.designUnknown': 404,
  'label.countOpen': 422,
  'label.lacks': 409,
  'label.unreadable': 409,
  'heat.process': 422,
  'heat.notThisWay': 422,
  'heat.processUnknown': 404,
  'heat.processEnded': 409,
  'heat.loadUnknown': 404,
  'heat.jarElsewhere': 422,
  'heat.jarHeld': 409,
  'jar.unknown': 404,
  'jar.notHere': 409,
  'jar.notReleased': 409,
  'jar.moved': 409,
  'jar.cameBack': 409,
  'customer.unknown': 404,
  'customer.closed': 409,
  'pack.tallyOpen': 422,
  'correction.notThisKind': 422,
  'correction.nothingChanged': 422,
  'code.unreadable': 422,
  'code.checkCharacter': 422,
  'code.exhausted': 422,
  'formula.unknown': 422,
  'formula.hole': 422,
  'formula.retired': 422,
  'formula.outsideScope': 422,
  'material.unknown': 422,
  'rule.unknown': 422,
  'vessel.doesNotCover': 422,
  'brine.saturated': 422,
  'quantity.unitMissing': 422,
  'quantity.range': 422,
  'quantity.spread': 422,
  'file.unreadable': 422,
  'stock.reasonNeeded': 422,
  'file.tooLarge': 413,
  'making.nothingFilled': 409,
  'making.linesOpen': 409,
  'making.stepsOpen': 409,
  'making.bowlsNotEmpty': 409,
  'making.unchecked': 422,
  'making.stepDone': 409,
  'making.stepUnknown': 422,
  'making.changedMeanwhile': 409,
  'salt.samePerson': 422,
  'salt.notConfirmed': 422,
  'starter.generation': 422,
  'starter.expired': 422,
  'brine.unanswered': 409,
  'leaf.lossOutsideRange': 422,
  'stock.past': 422,
  'timer.unknown': 404,
  'time.tooEarly': 422,
  'text.unfit': 422,
  'figure.unfit': 422,
  'figure.outOfRange': 422,
  'record.unreadable': 409,
  'hold.throwOut': 409,
  'hold.readingsMissing': 409,
  'finding.laxer': 403,
  'finding.unknown': 422,
  'taste.notYet': 409,
  'ph.jump': 422,
  'meter.unknown': 422,
  'meter.buffers': 422,
  'check.notQuiet': 422,
  'device.silent': 503,
  'device.unknown': 404,
  'device.refused': 409,
  'device.wrongUnit': 422,
  'server.fault': 500,
  'server.busy': 503,
  'server.full': 507,
} as const satisfies Record<ProblemCode, number>;

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

/** The one error middleware: refusals in their own words, everything else as a fault without its text. */
export function problems(log: Logger) {
  return async (ctx: Context, next: Next): Promise<void> => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined && ctx.path.startsWith('/api/'))
        answer(ctx, { code: 'resource.unknown', detail: `There is nothing at ${ctx.path}.` });
    } catch (error) {
      answer(ctx, explain(error, log));
    }
  };
}

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

type Explained = Pick<Problem, 'code' | 'detail' | 'field' | 'facts' | 'entry'>;

function answer(ctx: Context, { code, detail, ...more }: Explained): void {
  ctx.status = STATUS[code];
  if (ctx.status === 503 || ctx.status === 429)
    ctx.set('Retry-After', String(typeof more.facts?.['seconds'] === 'number' ? more.facts['seconds'] : 3));
  ctx.type = 'application/problem+json';
  const problem: Problem = { type: `/problems/${code}`, title: code, status: STATUS[code], code, detail, ...more };
  ctx.body = JSON.stringify(problem);
}

function explain(error: unknown, log: Logger): Explained {
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
      detail: 'This is too large: up to 256 kB are accepted at once. Send fewer entries.',
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
