import { isRecordable, momentInWords } from '../calendar/index.js';
import { accept, refuse, type Outcome } from '../refusal.js';

/** Clocks of tablets differ; five minutes are granted. Source: handbook 2.8. */
export const CLOCK_SKEW_MS = 5 * 60_000;

/** So far apart two tablets' clocks may be, one fast and one slow. */
export const CLOCKS_APART_MS = 2 * CLOCK_SKEW_MS;

/** Refuses what is said to have happened in the future, or before there was anything to record. */
export function decideMoment(input: { happenedAt: number; now: number }): Outcome<number> {
  const { happenedAt, now } = input;
  if (!Number.isFinite(now)) throw new RangeError('what time it is must be known');
  const more = { field: 'happenedAt', facts: { happenedAt, now } };
  if (!Number.isFinite(happenedAt) || (!isRecordable(happenedAt) && !(happenedAt > now))) {
    return refuse(
      'time.tooEarly',
      `The time given, ${Number.isFinite(happenedAt) ? `${momentInWords(happenedAt, 'UTC')} UTC` : 'which is none'}, cannot be: a year of four figures from 1950 on is accepted. Look at the date, and at the tablet’s clock.`,
      more,
    );
  }
  if (happenedAt > now + CLOCK_SKEW_MS) {
    return refuse(
      'time.future',
      `The time given, ${isRecordable(happenedAt) ? `${momentInWords(happenedAt, 'UTC')} UTC` : 'many years from now'}, is in the future. Up to five minutes of clock difference are accepted: look at the tablet’s clock.`,
      more,
    );
  }
  return accept(happenedAt);
}
