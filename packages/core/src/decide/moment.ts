import { accept, refuse, type Outcome } from '../refusal.js';

/** Clocks of tablets differ; five minutes are granted. Source: handbook 2.8. */
export const CLOCK_SKEW_MS = 5 * 60_000;

/** Refuses what is said to have happened in the future. */
export function decideMoment(input: { happenedAt: number; now: number }): Outcome<number> {
  if (input.happenedAt > input.now + CLOCK_SKEW_MS) {
    return refuse('time.future', `The time given, ${new Date(input.happenedAt).toISOString()}, is in the future. Up to five minutes of clock difference are accepted: look at the tablet’s clock.`, {
      field: 'happenedAt', facts: { happenedAt: input.happenedAt, now: input.now },
    });
  }
  return accept(input.happenedAt);
}
