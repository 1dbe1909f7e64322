import type { PhPoint } from './trend.js';

const HOUR = 3_600_000;
/** The general boundary a blended sample has to reach in time. Source: handbook 3.3, 6.1. */
export const ACID_BOUNDARY = 4.6;
export const DEGREE_HOURS = 1600;
const DEGREES_FROM = 4;
/** Readings no further apart than this are a logger's. */
const LOGGER_GAP_HOURS = 1;

/** Hours to reach pH 4.6 by mean temperature; a boundary temperature takes the shorter row. Source: handbook 3.3. */
export const ACID_BY = [
  { key: 'above20', aboveCelsius: 20, hours: 72, words: 'above 20 °C' },
  { key: 'above15', aboveCelsius: 15, hours: 120, words: 'above 15 to 20 °C' },
  { key: 'above10', aboveCelsius: 10, hours: 240, words: 'above 10 to 15 °C' },
  { key: 'cold', aboveCelsius: -Infinity, hours: 504, words: '10 °C and below' },
] as const;
export type AcidByKey = (typeof ACID_BY)[number]['key'];
export type AcidByHours = Readonly<Partial<Record<AcidByKey, number>>>;

/**
 * The row of a mean temperature; the house may shorten its hours, never lengthen them.
 * @example acidByRow(20) //=> { key: 'above15', hours: 120, … }
 * @example acidByRow(20.1) //=> { key: 'above20', hours: 72, … }
 */
export function acidByRow(meanCelsius: number, house: AcidByHours = {}): { key: AcidByKey; hours: number; words: string } {
  if (!Number.isFinite(meanCelsius)) throw new RangeError('a mean temperature is needed');
  const row = ACID_BY.find(({ aboveCelsius }) => meanCelsius > aboveCelsius)!;
  return { key: row.key, words: row.words, hours: Math.min(row.hours, house[row.key] ?? row.hours) };
}

export interface CelsiusPoint { readonly at: number; readonly celsius: number }

/** Σ max(0, T − 4 °C)·h by readings each holding until the next. */
export function degreeHours(input: { points: readonly CelsiusPoint[]; until: number }): number {
  const sorted = [...input.points].sort((a, b) => a.at - b.at).filter(({ at }) => at <= input.until);
  return sorted.reduce((sum, point, index) => sum + Math.max(0, point.celsius - DEGREES_FROM) * (((sorted[index + 1]?.at ?? input.until) - point.at) / HOUR), 0);
}

export interface Lateness {
  readonly state: 'met' | 'metLate' | 'pending' | 'late' | 'throwOut';
  readonly deadline: number;
  /** When a blended sample first stood at 4.6 or lower. */
  readonly reachedAt: number | null;
  readonly meanCelsius: number;
  readonly hours: number;
  readonly by: 'table' | 'degreeHours';
  readonly words: string;
}

/**
 * Whether acid came in time: 4.6 on the blended sample, by the mean temperature and, with a logger, by
 * degree-hours, whichever is earlier. What starts at or under 4.6 meets it from the start. Moments in ms.
 * Source: handbook 3.3, worked case W14.
 */
export function lateness(input: { filledAt: number; now: number; phs: readonly PhPoint[]; celsius: readonly CelsiusPoint[]; roomCelsius: number; acidLimit: number; house?: AcidByHours }): Lateness {
  const { filledAt, now, acidLimit } = input;
  const phs = input.phs.filter(({ at }) => at >= filledAt && at <= now).sort((a, b) => a.at - b.at);
  const temperatures = input.celsius.filter(({ at }) => at >= filledAt && at <= now).sort((a, b) => a.at - b.at);
  const first = phs[0];
  const blended = phs.filter(({ sample, doubtful }) => sample === 'blended' && !doubtful);
  const startedLow = first !== undefined && first.ph <= ACID_BOUNDARY && first.at - filledAt <= 12 * HOUR;
  const reachedAt = startedLow ? filledAt : (blended.find(({ ph }) => ph <= ACID_BOUNDARY)?.at ?? null);
  const until = reachedAt ?? now;
  const counted = temperatures.filter(({ at }) => at <= until);
  const mean = counted.length > 0 ? counted.reduce((sum, { celsius }) => sum + celsius, 0) / counted.length : input.roomCelsius;
  const row = acidByRow(Math.round(mean * 100) / 100, input.house);
  const byTable = filledAt + row.hours * HOUR;
  const byDegrees = isLogger(temperatures, filledAt, Math.min(until, byTable)) ? degreesReached(temperatures, until) : null;
  const deadline = byDegrees !== null && byDegrees < byTable ? byDegrees : byTable;
  const by = deadline < byTable ? 'degreeHours' : 'table';
  const hours = (deadline - filledAt) / HOUR;
  const words = by === 'table' ? `4.6 within ${daysWords(row.hours)} at ${row.words} (mean ${mean.toFixed(1)} °C)` : `4.6 within ${DEGREE_HOURS.toLocaleString('en')} degree-hours above 4 °C, reached after ${Math.round(hours)} h`;
  const common = { deadline, reachedAt, meanCelsius: mean, hours, by, words } as const;
  if (reachedAt !== null) {
    if (reachedAt <= deadline) return { state: 'met', ...common };
    const last = blended.at(-1)!;
    return { state: now >= filledAt + 2 * (deadline - filledAt) && last.ph > acidLimit ? 'throwOut' : 'metLate', ...common };
  }
  if (now < deadline) return { state: 'pending', ...common };
  const last = blended.at(-1);
  const twice = filledAt + 2 * (deadline - filledAt);
  return { state: last && now >= twice && last.ph > acidLimit && last.at >= deadline ? 'throwOut' : 'late', ...common };
}

const daysWords = (hours: number): string => (hours <= 72 || hours % 24 !== 0 ? `${hours} h` : `${hours / 24} days`);

function isLogger(points: readonly CelsiusPoint[], from: number, until: number): boolean {
  const within = points.filter(({ at }) => at <= until);
  if (within.length < 2) return false;
  return [from, ...within.map(({ at }) => at), until].every((at, index, all) => index === 0 || at - all[index - 1]! <= LOGGER_GAP_HOURS * HOUR + 60_000);
}

function degreesReached(points: readonly CelsiusPoint[], until: number): number | null {
  let sum = 0;
  for (const [index, point] of points.entries()) {
    const end = points[index + 1]?.at ?? until;
    const perHour = Math.max(0, point.celsius - DEGREES_FROM);
    const here = (perHour * (end - point.at)) / HOUR;
    if (perHour > 0 && sum + here >= DEGREE_HOURS) return Math.round(point.at + ((DEGREE_HOURS - sum) / perHour) * HOUR);
    sum += here;
  }
  return null;
}

/** What a late vessel is looked at for. Source: handbook 3.3. */
export const LATE_CHECKLIST = [
  'The meter: calibrate it and read again, blended', 'The salt: was it weighed, is it even, is it too much?', 'The temperature of the room, and of the vessel’s middle',
  'Chlorine in the water', 'Preservatives, wax or sprays on the produce', 'Was the brine still hot when it was poured?', 'Was the produce frozen?',
] as const;
