const HOUR = 3_600_000;

export interface CelsiusPoint {
  readonly at: number;
  readonly celsius: number;
}

/** So long a reading stands for its vessel, exactly so long with it; in longer gaps the room does. Source: handbook 3.3. */
export const HOLDS_MS = 36 * HOUR;
const DEGREES_FROM = 4;
export const DEGREE_HOURS = 1600;

/** A stretch of time at one temperature, in whole milliseconds after filling: hours as fractions do not compare. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly celsius: number;
}

/**
 * The temperature of a vessel from filling on: a reading holds until the next, the room's temperature stands before the
 * first and in gaps of over 36 hours. Source: handbook 3.3.
 */
export function stretches(input: {
  filledAt: number;
  until: number;
  points: readonly CelsiusPoint[];
  roomCelsius: number;
}): Stretch[] {
  const { filledAt, until, roomCelsius } = input;
  const points = within(input.points, filledAt, until);
  const first = { from: 0, to: (points[0]?.at ?? until) - filledAt, celsius: roomCelsius };
  const rest = points.map((point, index): Stretch => {
    const [from, to] = [point.at - filledAt, (points[index + 1]?.at ?? until) - filledAt];
    return { from, to, celsius: to - from > HOLDS_MS ? roomCelsius : point.celsius };
  });
  return [first, ...rest].filter(({ from, to }) => to > from);
}

/**
 * The same as somebody saw it at the time: within 36 hours of its last reading, before a longer gap made the room stand
 * for all of it. One course of stretches for each such gap.
 */
export function stretchesSeenThen(input: Parameters<typeof stretches>[0]): Stretch[][] {
  const all = stretches(input);
  const points = within(input.points, input.filledAt, input.until);
  return points.flatMap((point, index) => {
    const from = point.at - input.filledAt;
    const gap = (points[index + 1]?.at ?? input.until) - point.at;
    return gap > HOLDS_MS
      ? [[...all.filter((one) => one.from < from), { from, to: from + HOLDS_MS, celsius: point.celsius }]]
      : [];
  });
}

/** The mean of a vessel's temperature, weighted by time. The room's where nothing has passed. */
export function meanCelsius(all: readonly Stretch[], roomCelsius: number): number {
  const time = all.reduce((sum, { from, to }) => sum + (to - from), 0);
  return time > 0 ? all.reduce((sum, { from, to, celsius }) => sum + celsius * (to - from), 0) / time : roomCelsius;
}

/**
 * The first moment, in ms after filling and not before `from`, at which the mean since filling lies above a bound; null
 * while it never does. Reckoned in differences from the bound, so that a steady 20 °C is 20 °C and 20.004 °C is more.
 */
export function timeAbove(input: { all: readonly Stretch[]; bound: number; from: number }): number | null {
  const { all, bound, from } = input;
  // What the last digit of a sum says is no crossing: a thousand-millionth of a degree over the time passed.
  const slack = (time: number): number => 1e-9 * Math.max(HOUR, time);
  let over = 0;
  for (const { from: begin, to, celsius } of all) {
    const rate = celsius - bound;
    // Within the stretch: over + rate · (t − begin) > 0, and t ≥ from.
    const start = Math.max(begin, from);
    if (start <= to && over + rate * (start - begin) > slack(start)) return start;
    const after = over + rate * (to - begin);
    if (rate > 0 && start < to && after > slack(to)) return Math.max(start, begin - over / rate);
    over = after;
  }
  return null;
}

/** Each reading with the time it holds: until the next, 36 hours at most. What lies beyond is not known. */
const known = (points: readonly CelsiusPoint[], until: number): { at: number; celsius: number; holds: number }[] =>
  points.map(({ at, celsius }, index) => ({
    at,
    celsius,
    holds: Math.min(HOLDS_MS, (points[index + 1]?.at ?? until) - at),
  }));

/** Hours for which something holds of what was read, by the time each reading stands. Source: handbook 3.3. */
export function knownHours(input: {
  readonly points: readonly CelsiusPoint[];
  readonly from: number;
  readonly until: number;
  readonly where: (celsius: number) => boolean;
}): number {
  const points = within(input.points, input.from, input.until);
  return known(points, input.until).reduce((sum, one) => sum + (input.where(one.celsius) ? one.holds : 0), 0) / HOUR;
}

/** Σ max(0, T − 4 °C)·h over the hours that are known. */
export function degreeHours(input: { points: readonly CelsiusPoint[]; until: number }): number {
  const points = within(input.points, -Infinity, input.until);
  return known(points, input.until).reduce(
    (sum, { celsius, holds }) => sum + Math.max(0, celsius - DEGREES_FROM) * (holds / HOUR),
    0,
  );
}

/**
 * The moment at which the degree-hours pass 1,600, by every reading, a person's like a logger's: the hours that are
 * known count, beyond them nothing is added. Null while they do not. Source: handbook 3.3.
 */
export function degreeHoursPassed(input: {
  filledAt: number;
  until: number;
  points: readonly CelsiusPoint[];
}): number | null {
  let sum = 0;
  for (const { at, celsius, holds } of known(within(input.points, input.filledAt, input.until), input.until)) {
    const perHour = Math.max(0, celsius - DEGREES_FROM);
    const more = perHour * (holds / HOUR);
    if (sum + more > DEGREE_HOURS) return Math.round(at + ((DEGREE_HOURS - sum) / perHour) * HOUR);
    sum += more;
  }
  return null;
}

/** In order, one for a moment: of two the warmer. What is no number was not read. */
function within(points: readonly CelsiusPoint[], from: number, until: number): CelsiusPoint[] {
  const sorted = points
    .filter(({ at, celsius }) => Number.isFinite(celsius) && at >= from && at <= until)
    .sort((a, b) => a.at - b.at || a.celsius - b.celsius);
  return sorted.filter((point, index) => sorted[index + 1]?.at !== point.at);
}
