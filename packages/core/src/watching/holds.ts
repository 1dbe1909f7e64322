import { accept, refuse, type Outcome } from '../refusal.js';
import { counting, type PhPoint } from './readings.js';
import { pairAtLimit } from './trend.js';

/** What opened a hold. */
export const HOLD_RULES = {
  person: 'by a person',
  late: 'acid too late',
  rising: 'pH rising',
  finding: 'a finding',
  upstream: 'held further up',
  throwOut: 'to be thrown out',
} as const;
export type HoldRule = keyof typeof HOLD_RULES;
export const HOLD_RULE_KEYS = Object.keys(HOLD_RULES) as [HoldRule, ...HoldRule[]];

/**
 * Whether a reviewer may end a hold. A lateness hold ends only on a pair of blended readings at or under the house
 * limit, taken after it; a rising one on one such reading with nothing above the limit since; what is to be thrown
 * out is thrown out. Source: handbook 3.3, worked case W14.
 */
export function decideLift(input: {
  code: string;
  rule: HoldRule;
  placedAt: number;
  points: readonly PhPoint[];
  acidLimit: number;
  throwOut: boolean;
}): Outcome<void> {
  const { code, rule, placedAt, points, acidLimit } = input;
  if (!(acidLimit <= 4.6)) throw new RangeError('no house limit lies above 4.6');
  if (!Number.isFinite(placedAt)) throw new RangeError('a hold has its moment');
  if (!Object.hasOwn(HOLD_RULES, rule)) throw new RangeError(`no rule “${String(rule)}” holds a lot`);
  if (rule === 'throwOut' || input.throwOut !== false) {
    return refuse(
      'hold.throwOut',
      `${code} stood above 4.6 at twice its deadline, or was judged “Throw out”. Such a hold is not lifted: throw it out, with a record. Adding acid does not save it.`,
      { field: 'reason' },
    );
  }
  const since = counting(points).filter(({ at }) => at > placedAt);
  const facts = { readings: since.length, acidLimit };
  if (rule === 'late' && !pairAtLimit({ points, limit: acidLimit, since: placedAt })) {
    const have =
      since.length === 0
        ? 'There is none since the hold'
        : `Since the hold: ${since.map(({ ph }) => ph.toFixed(2)).join(', ')}`;
    return refuse(
      'hold.readingsMissing',
      `A lateness hold ends on two blended readings at ${acidLimit} or lower, 24 to 72 hours apart and within 0.1, after the hold, with a meter fit for release and nothing higher since. ${have}. Brine-only readings, strips and readings without a calibrated meter do not count.`,
      { field: 'reason', facts },
    );
  }
  const last = since.at(-1);
  const higher = points.some(({ at, ph }) => last !== undefined && at >= last.at && !(ph <= acidLimit));
  if (rule === 'rising' && !(last && last.ph <= acidLimit && !higher)) {
    return refuse(
      'hold.readingsMissing',
      `A hold for a rising pH ends when a blended reading after it, with a meter fit for release, stands at ${acidLimit} or lower, and nothing higher was read since. Read ${code} again.`,
      { field: 'reason', facts },
    );
  }
  return accept(undefined);
}
