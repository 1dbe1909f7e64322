const HOUR = 3_600_000;

export interface PhPoint {
  readonly at: number;
  readonly ph: number;
  readonly sample: 'blended' | 'brine';
  /** Read with a meter fit for release. */
  readonly fit: boolean;
  /** Off the trend, and not repeated yet. */
  readonly doubtful?: boolean;
}

/** Beyond this a rise means that acid is being eaten. Source: handbook 3.3. */
export const RISE_LIMIT = 0.2;
/** Beyond this a reading is off the trend and is repeated at once. Source: handbook 3.2. */
export const JUMP_LIMIT = 0.4;
/** Vessels of a batch that stand further apart than this on one day. Source: handbook 3.3. */
export const DIVERGENCE_LIMIT = 0.3;
/** Readings that agree. Source: handbook 3.1, 3.5. */
export const AGREE_WITHIN = 0.1;

export interface PhTrend {
  readonly direction: 'none' | 'falling' | 'steady' | 'rising';
  readonly last: PhPoint | null;
  /** Of the last reading above the lowest one before it, of the same kind of sample. */
  readonly rise: number;
}

/** Where the pH goes. Doubtful readings wait for their repeat and are left out. */
export function phTrend(points: readonly PhPoint[]): PhTrend {
  const sorted = points.filter(({ doubtful }) => !doubtful).sort((a, b) => a.at - b.at);
  const last = sorted.at(-1) ?? null;
  if (!last) return { direction: 'none', last, rise: 0 };
  const before = sorted.slice(0, -1).filter(({ sample }) => sample === last.sample);
  if (before.length === 0) return { direction: 'none', last, rise: 0 };
  const rise = Math.max(0, round(last.ph - Math.min(...before.map(({ ph }) => ph))));
  // Over the last week, not since filling: a fall long ago says nothing of today.
  const recent = before.filter(({ at }) => last.at - at <= 7 * 24 * HOUR);
  const from = (recent[0] ?? before.at(-1)!).ph;
  const change = round(last.ph - from);
  return { direction: rise > 0.1 ? 'rising' : change <= -0.1 ? 'falling' : 'steady', last, rise };
}

/** Acid is being eaten: the pH has risen by more than 0.2 over its lowest. Source: handbook 3.3. */
export const acidIsEaten = (trend: PhTrend): boolean => trend.rise > RISE_LIMIT + 1e-9;

/**
 * Whether a new reading is off the trend, and by how much. What falls is expected to go on falling, at most as
 * fast as it did; in the first week it may fall fast. Source: handbook 3.2.
 */
export function jumps(input: { points: readonly PhPoint[]; ph: number; at: number; filledAt: number; sample: PhPoint['sample'] }): { jump: boolean; least: number; most: number; last: number } | null {
  const before = input.points.filter((point) => point.at <= input.at && !point.doubtful && point.sample === input.sample).sort((a, b) => a.at - b.at);
  const last = before.at(-1);
  if (!last) return null;
  // A doubtful reading repeated is no second jump.
  const doubt = input.points.findLast((point) => point.at <= input.at && point.sample === input.sample);
  if (doubt?.doubtful && isRepeat(doubt.ph, input.ph)) return { jump: false, least: input.ph, most: input.ph, last: last.ph };
  const earlier = before.at(-2);
  const hours = Math.max(0, (input.at - last.at) / HOUR);
  const slope = earlier && last.at > earlier.at ? Math.min(0, (last.ph - earlier.ph) / ((last.at - earlier.at) / HOUR)) : 0;
  const young = input.at - input.filledAt < 7 * 24 * HOUR;
  const fall = Math.max(young ? (1.5 / 24) * hours : 0, -slope * hours);
  const least = round(Math.max(2.8, last.ph - fall) - JUMP_LIMIT);
  const most = round(last.ph + JUMP_LIMIT);
  return { jump: input.ph < least - 1e-9 || input.ph > most + 1e-9, least, most, last: last.ph };
}

/** Whether two readings, one right after the other, say the same. */
export const isRepeat = (a: number, b: number): boolean => Math.abs(a - b) <= 0.15 + 1e-9;

/** Sister vessels whose last pH this reading fits better: was the probe in the other one? */
export function fitsBetter(input: { ph: number; own: number; sisters: readonly { code: string; ph: number }[] }): string[] {
  const off = Math.abs(input.ph - input.own);
  return input.sisters.filter(({ ph }) => Math.abs(input.ph - ph) <= 0.15 && Math.abs(input.ph - ph) < off).map(({ code }) => code);
}

/** The odd ones out of a batch read on one day. Source: handbook 3.3. */
export function diverging(vessels: readonly { code: string; ph: number }[]): string[] {
  if (vessels.length < 2) return [];
  const sorted = vessels.map(({ ph }) => ph).sort((a, b) => a - b);
  if (round(sorted.at(-1)! - sorted[0]!) <= DIVERGENCE_LIMIT) return [];
  const middle = sorted[Math.floor((sorted.length - 1) / 2)]!;
  const odd = vessels.filter(({ ph }) => Math.abs(ph - middle) > DIVERGENCE_LIMIT / (vessels.length === 2 ? 3 : 1));
  return (odd.length > 0 ? odd : vessels).map(({ code }) => code);
}

/** Two blended readings, fit for release, at or under a limit, at least so many hours apart. The newest pair, or null. */
export function pairAtLimit(input: { points: readonly PhPoint[]; limit: number; since?: number; apartHours?: number; agree?: boolean }): [PhPoint, PhPoint] | null {
  const { limit, since = -Infinity, apartHours = 0, agree = false } = input;
  const sorted = input.points.filter(({ sample, fit, at, doubtful }) => sample === 'blended' && fit && !doubtful && at > since).sort((a, b) => b.at - a.at);
  const [last] = sorted;
  if (!last || last.ph > limit) return null;
  // Nothing above the limit lies between the two.
  for (const other of sorted.slice(1)) {
    if (other.ph > limit) return null;
    if (last.at - other.at >= apartHours * HOUR && (!agree || Math.abs(last.ph - other.ph) <= AGREE_WITHIN + 1e-9)) return [other, last];
  }
  return null;
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
