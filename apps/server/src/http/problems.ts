import type { Problem } from '@clear-tally/contract';
import type { Context, Next } from 'koa';
import type { Logger } from 'pino';
import { explain, type Explained } from './explain.js';
import { STATUS } from './status.js';

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

function answer(ctx: Context, { code, detail, ...more }: Explained): void {
  ctx.status = STATUS[code];
  if (ctx.status === 503 || ctx.status === 429)
    ctx.set('Retry-After', String(typeof more.facts?.['seconds'] === 'number' ? more.facts['seconds'] : 3));
  ctx.type = 'application/problem+json';
  const problem: Problem = { type: `/problems/${code}`, title: code, status: STATUS[code], code, detail, ...more };
  ctx.body = JSON.stringify(problem);
}
