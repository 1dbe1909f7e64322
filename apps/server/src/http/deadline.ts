import type { Context, Next } from 'koa';
import { refused } from '../journal/refused.js';

/** Nobody waits longer than this for an answer, whatever a request waits for. */
const DEADLINE_MS = 9500;

/**
 * Answers in time, also when the database has frozen in the middle of something. What was sent is recorded or not: sent
 * again with the same id it is answered with what became of it.
 */
export function deadline(ms = DEADLINE_MS) {
  return async (ctx: Context, next: Next): Promise<void> => {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      timer = setTimeout(
        () =>
          reject(
            refused(
              'server.busy',
              'The database does not answer at the moment. What you typed is kept: try again shortly. If it was recorded after all, it is not recorded twice.',
            ),
          ),
        ms,
      );
    });
    const work = next();
    // Whatever comes of it after the answer, nobody waits for any more.
    work.catch(() => undefined);
    try {
      await Promise.race([work, late]);
    } finally {
      clearTimeout(timer);
    }
  };
}
