const HOUR = 3_600_000;

export interface CelsiusPoint {
  readonly at: number;
  readonly celsius: number;
}

/** Hours over which a reading stands for its vessel; in longer gaps the room does. Source: handbook 3.3. */
export const HOLDS_HOURS = 36;
/** Readings no further apart than this are a logger's, with a minute of its clock. */
const LOGGER_GAP_HOURS = 1 + 1 / 60;
const DEGREES_FROM = 4;
export const DEGREE_HOURS = 1600;

/** A stretch of hours after filling at one temperature. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly celsius: number;
}

/**
 * The temperature of a vessel from filling on, in hours after it: a reading holds until the next, the room's
 * temperature stands before the first and in gaps of over 36 hours. Source: handbook 3.3.
 */
export function stretches(input: {
  filledAt: number;
  until: number;
  points: readonly CelsiusPoint[];
  roomCelsius: number;
}): Stretch[] {
  const { filledAt, until, roomCelsius } = input;
  const points = within(input.points, filledAt, until);
  const hours = (at: number): number => (at - filledAt) / HOUR;
  const first = { from: 0, to: hours(points[0]?.at ?? until), celsius: roomCelsius };
  const rest = points.map((point, index): Stretch => {
    const [from, to] = [hours(point.at), hours(points[index + 1]?.at ?? until)];
    return { from, to, celsius: to - from > HOLDS_HOURS ? roomCelsius : point.celsius };
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
    const from = (point.at - input.filledAt) / HOUR;
    const gap = ((points[index + 1]?.at ?? input.until) - point.at) / HOUR;
    return gap > HOLDS_HOURS
      ? [[...all.filter((one) => one.from < from), { from, to: from + HOLDS_HOURS, celsius: point.celsius }]]
      : [];
  });
}

/** The mean of a vessel's temperature, weighted by time. The room's where nothing has passed. */
export function meanCelsius(all: readonly Stretch[], roomCelsius: number): number {
  const hours = all.reduce((sum, { from, to }) => sum + (to - from), 0);
  return hours > 0 ? all.reduce((sum, { from, to, celsius }) => sum + celsius * (to - from), 0) / hours : roomCelsius;
}

/**
 * The first hour, not before `from`, at which the mean since filling lies above a bound; null while it never does.
 * Reckoned in differences from the bound, so that a steady 20 °C is 20 °C and 20.004 °C is more.
 */
export function hourAbove(input: { all: readonly Stretch[]; bound: number; from: number }): number | null {
  const { all, bound, from } = input;
  let over = 0;
  for (const { from: begin, to, celsius } of all) {
    const rate = celsius - bound;
    // Within the stretch: over + rate · (t − begin) > 0, and t ≥ from.
    const start = Math.max(begin, from);
    if (start <= to && over + rate * (start - begin) > 1e-9 * Math.max(1, start)) return start;
    const after = over + rate * (to - begin);
    // A mean that only just arrives at the bound by the end has not crossed it, whatever the last digit of a sum says.
    if (rate > 0 && start < to && after > 1e-9 * Math.max(1, to)) return Math.max(start, begin - over / rate);
    over = after;
  }
  return null;
}

/** Σ max(0, T − 4 °C)·h by readings each holding until the next. */
export function degreeHours(input: { points: readonly CelsiusPoint[]; until: number }): number {
  const points = within(input.points, -Infinity, input.until);
  return points.reduce(
    (sum, point, index) =>
      sum + Math.max(0, point.celsius - DEGREES_FROM) * (((points[index + 1]?.at ?? input.until) - point.at) / HOUR),
    0,
  );
}

/**
 * The moment at which the degree-hours of a log pass 1,600: the hours that are known count, a gap in the log adds
 * nothing. Null while they do not. Source: handbook 3.3.
 */
export function degreeHoursPassed(input: {
  filledAt: number;
  until: number;
  points: readonly CelsiusPoint[];
}): number | null {
  const points = within(input.points, input.filledAt, input.until);
  let sum = 0;
  for (const [index, point] of points.entries()) {
    const hours = ((points[index + 1]?.at ?? input.until) - point.at) / HOUR;
    const perHour = Math.max(0, point.celsius - DEGREES_FROM);
    if (hours > LOGGER_GAP_HOURS || perHour === 0) continue;
    if (sum + perHour * hours > DEGREE_HOURS) return Math.round(point.at + ((DEGREE_HOURS - sum) / perHour) * HOUR);
    sum += perHour * hours;
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
