import { counting, counts, inOrderOfTime, type PhPoint } from './readings.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Beyond this a rise means that acid is being eaten. Source: handbook 3.3. */
export const RISE_LIMIT = 0.2;
/** Beyond this a reading is off the trend and is repeated at once. Source: handbook 3.2. */
export const JUMP_LIMIT = 0.4;
/** Vessels of a batch that stand further apart than this on one day. Source: handbook 3.3. */
export const DIVERGENCE_LIMIT = 0.3;
/** Readings that agree. Source: handbook 3.1, 3.5. */
export const AGREE_WITHIN = 0.1;
/** Two readings that release or lift lie so far apart. Source: handbook 3.1, 3.3. */
export const PAIR_HOURS = { least: 24, most: 72 } as const;

export interface PhTrend {
  readonly direction: 'none' | 'falling' | 'steady' | 'rising';
  /** The last reading of any kind. */
  readonly last: PhPoint | null;
  /** Of the last state over the lowest before it; a brine-only reading after a blended one never ends it. */
  readonly rise: number;
}

/**
 * Where the pH of what stands there now goes. A rise is told by the readings that count and by whatever stands above
 * them; a fall or a calm by those that count alone. Source: handbook 3.3.
 */
export function phTrend(points: readonly PhPoint[]): PhTrend {
  const own = inOrderOfTime(points.filter(({ ph, beforeMixture }) => Number.isFinite(ph) && !beforeMixture));
  const last = own.at(-1) ?? inOrderOfTime(points).at(-1) ?? null;
  const rise = riseOf(own);
  if (rise > 0.1 + 1e-9) return { direction: 'rising', last, rise };
  const calm = counting(own);
  const end = calm.at(-1);
  if (!end || calm.length < 2) return { direction: 'none', last, rise };
  // Over the last week, not since filling: a fall long ago says nothing of today.
  const recent = calm.filter(({ at }) => end.at - at <= 7 * DAY);
  const from = (recent.length > 1 ? recent[0]! : calm.at(-2)!).ph;
  return { direction: round(end.ph - from) <= -0.1 ? 'falling' : 'steady', last, rise };
}

/**
 * The rise of the last state of each kind of sample over the lowest before it. The last blended reading that counts
 * stands until another one; what was read higher after it, of whatever kind and however doubtful, stands beside it.
 * A rise of the brine is ended by no brine, only by a blended reading that counts and is no higher.
 */
function riseOf(sorted: readonly PhPoint[]): number {
  const [blended, brine] = [
    sorted.filter(({ sample }) => sample === 'blended'),
    sorted.filter(({ sample }) => sample === 'brine'),
  ];
  const lastCounting = blended.findLastIndex((point) => !point.doubtful && point.fit);
  const ended = lowestFrom(blended.filter(counts), brine);
  const rises = [
    ...risesOver(blended).slice(Math.max(0, lastCounting)),
    ...risesOver(brine).filter((_, index) => !(ended[index]! <= brine[index]!.ph)),
  ];
  // Blended above a brine of before is no rise: the middle of a piece lags behind.
  return round([...rises, ...besideBlended(sorted)].reduce((most, rise) => Math.max(most, rise), 0));
}

/**
 * How far what does not count (brine, a strip, an unfit meter) stands over the lowest blended reading before it that
 * does: beyond 0.2 a rise like any other, until a blended one that counts is taken after it. Less is the difference of
 * two kinds of sample. Source: handbook 3.3.
 */
function besideBlended(sorted: readonly PhPoint[]): number[] {
  const last = sorted.findLast(counts)?.at ?? Infinity;
  let lowest = Infinity;
  return sorted.flatMap((point) => {
    if (counts(point)) {
      lowest = Math.min(lowest, point.ph);
      return [];
    }
    const rise = round(point.ph - lowest);
    return point.at >= last && rise > RISE_LIMIT + 1e-9 ? [rise] : [];
  });
}

/** Of each reading of one kind, in order, how far it stands over the lowest before it. A doubtful low stands for nothing. */
function risesOver(same: readonly PhPoint[]): number[] {
  let lowest = Infinity;
  return same.map(({ ph, doubtful }) => {
    const rise = ph - Math.min(ph, lowest);
    if (!doubtful) lowest = Math.min(lowest, ph);
    return rise;
  });
}

/** For each of some readings the lowest of the endings at its moment or later; both oldest first. */
function lowestFrom(endings: readonly PhPoint[], of: readonly PhPoint[]): number[] {
  const found = new Array<number>(of.length);
  let [lowest, next] = [Infinity, endings.length - 1];
  for (let index = of.length - 1; index >= 0; index -= 1) {
    for (; next >= 0 && endings[next]!.at >= of[index]!.at; next -= 1) lowest = Math.min(lowest, endings[next]!.ph);
    found[index] = lowest;
  }
  return found;
}

/** Acid is being eaten: the pH has risen by more than 0.2 over its lowest. Source: handbook 3.3. */
export const acidIsEaten = (trend: PhTrend): boolean => !(trend.rise <= RISE_LIMIT + 1e-9);

/** How fast a pH falls at most, per day, by where it stands: fast while it is high, slowly when it is sour. */
const FASTEST_FALL: readonly { readonly above: number; readonly perDay: number }[] = [
  { above: 5, perDay: 1.5 },
  { above: 4.6, perDay: 1 },
  { above: 4, perDay: 0.5 },
  { above: -Infinity, perDay: 0.25 },
];
/** Readings closer than this say nothing of a slope: their difference is the meter's. */
const SLOPE_HOURS = 6;

/**
 * Whether a new reading is off the trend of its vessel, and what was expected. In the first week it may fall as fast
 * as ferments do at that pH; later as fast as this vessel itself did. Never rises by more than 0.4.
 * Source: handbook 3.2.
 */
export function jumps(input: {
  points: readonly PhPoint[];
  ph: number;
  at: number;
  filledAt: number;
  sample: PhPoint['sample'];
}): { jump: boolean; least: number; most: number; last: number } | null {
  const same = inOrderOfTime(
    input.points.filter((point) => point.at <= input.at && point.sample === input.sample && !point.beforeMixture),
  );
  const settled = same.filter(({ doubtful }) => !doubtful);
  const last = settled.at(-1);
  if (!last) return null;
  // A doubtful reading repeated is no second jump.
  const doubt = same.at(-1)!;
  if (doubt.doubtful && isRepeat(doubt.ph, input.ph))
    return { jump: false, least: input.ph, most: input.ph, last: last.ph };
  const hours = Math.max(0, (input.at - last.at) / HOUR);
  const young = input.at - input.filledAt < 7 * DAY;
  const least = round(
    Math.max(2.8, last.ph - fallAtMost(last.ph, hours, young ? Infinity : ownPerDay(settled))) - JUMP_LIMIT,
  );
  const most = round(last.ph + JUMP_LIMIT);
  return { jump: !(input.ph >= least - 1e-9 && input.ph <= most + 1e-9), least, most, last: last.ph };
}

/** The vessel's own way down per day, by readings far enough apart; a little where nothing is known. */
function ownPerDay(settled: readonly PhPoint[]): number {
  const last = settled.at(-1)!;
  const earlier = settled.findLast(({ at }) => last.at - at >= SLOPE_HOURS * HOUR);
  return earlier ? Math.max(0.05, ((earlier.ph - last.ph) / (last.at - earlier.at)) * DAY) : 0.1;
}

function fallAtMost(from: number, hours: number, perDayAtMost: number): number {
  let [ph, left] = [from, hours / 24];
  for (const { above, perDay } of FASTEST_FALL) {
    if (ph <= above || left <= 0) continue;
    const rate = Math.min(perDay, perDayAtMost);
    const days = Math.min(left, (ph - above) / rate);
    ph -= rate * days;
    left -= days;
  }
  return from - ph;
}

/** Whether two readings, one right after the other, say the same. */
export const isRepeat = (a: number, b: number): boolean => Math.abs(a - b) <= 0.15 + 1e-9;

/** Sister vessels whose last pH this reading fits better: was the probe in the other one? */
export function fitsBetter(input: {
  ph: number;
  own: number;
  sisters: readonly { code: string; ph: number }[];
}): string[] {
  const off = Math.abs(input.ph - input.own);
  return input.sisters
    .filter(({ ph }) => Math.abs(input.ph - ph) <= 0.15 && Math.abs(input.ph - ph) < off)
    .map(({ code }) => code);
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

/**
 * The pair that releases or lifts: the last reading that counts and one that counts 24 to 72 hours before it, both at or
 * under a limit and within 0.1, with nothing above the limit read since the first of them, not even a doubtful one or a
 * strip. What a later reading superseded is no pair any more. The order in which they are given does not matter. Null
 * when there is none. Source: handbook 3.1, 3.3.
 * @throws {RangeError} a limit that is no number, or above 4.6
 */
export function pairAtLimit<P extends PhPoint>(input: {
  points: readonly P[];
  limit: number;
  since?: number;
}): [P, P] | null {
  const { limit, since = -Infinity } = input;
  if (!(limit <= 4.6)) throw new RangeError('no limit lies above 4.6');
  const read = counting(input.points).filter(({ at }) => at > since);
  const last = read.at(-1);
  if (!last || !(last.ph <= limit)) return null;
  const other = read.findLast(
    ({ at, ph }) =>
      ph <= limit &&
      last.at - at >= PAIR_HOURS.least * HOUR &&
      last.at - at <= PAIR_HOURS.most * HOUR &&
      Math.abs(last.ph - ph) <= AGREE_WITHIN + 1e-9,
  );
  return other && !input.points.some(({ at, ph }) => at >= other.at && !(ph <= limit)) ? [other, last] : null;
}

const round = (value: number): number => Math.round(value * 1000) / 1000;
