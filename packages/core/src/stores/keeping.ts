/** What has been done to a supply since it came. Source: handbook 7: opened, frozen and dried stock keeps its dates. */
export const SUPPLY_STATES = ['asReceived', 'opened', 'frozen', 'thawed', 'dried'] as const;
export type SupplyState = (typeof SUPPLY_STATES)[number];

export const STATE_WORDS: Record<SupplyState, string> = {
  asReceived: 'as received',
  opened: 'opened',
  frozen: 'frozen',
  thawed: 'thawed',
  dried: 'dried',
};

export interface Keeping {
  /** The day it is to be used by: the earlier of the supplier's date and the house's own after opening or thawing. */
  readonly until: string | null;
  readonly verdict: 'noDate' | 'keeps' | 'soon' | 'past';
  /** Whole days from today; negative when past. */
  readonly days: number | null;
}

/** Within so many days it is used first. */
export const SOON_DAYS = 3;

/**
 * How long a supply still keeps. Dates are local calendar dates, `2026-11-23`. A frozen or dried supply keeps by
 * its own date alone, because the supplier's was for the fresh goods.
 * @throws {RangeError} a date that is none
 * @example keeping({ today: '2026-11-23', useBy: '2026-11-25', keepsUntil: null, state: 'asReceived' }) //=> { until: '2026-11-25', verdict: 'soon', days: 2 }
 */
export function keeping(input: {
  today: string;
  useBy: string | null;
  keepsUntil: string | null;
  state: SupplyState;
}): Keeping {
  const { today, useBy, keepsUntil, state } = input;
  const own = state === 'frozen' || state === 'dried';
  const dates = [own ? null : useBy, keepsUntil].filter((date): date is string => date !== null).sort();
  const until = dates[0] ?? null;
  if (until === null) return { until, verdict: 'noDate', days: null };
  const days = Math.round((dayOf(until) - dayOf(today)) / 86_400_000);
  return { until, verdict: days < 0 ? 'past' : days <= SOON_DAYS ? 'soon' : 'keeps', days };
}

function dayOf(date: string): number {
  const day = Date.parse(`${date}T00:00:00Z`);
  if (!Number.isFinite(day)) throw new RangeError(`not a calendar date: ${date}`);
  return day;
}

/** First to expire first; without a date after those with one; of equal dates the older delivery. */
export function firstToUse<T extends { readonly until: string | null; readonly receivedAt: string }>(
  lots: readonly T[],
): T[] {
  return [...lots].sort(
    (a, b) => (a.until ?? '9999').localeCompare(b.until ?? '9999') || a.receivedAt.localeCompare(b.receivedAt),
  );
}
