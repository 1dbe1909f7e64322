import { counting, type PhPoint } from './readings.js';
import {
  DEGREE_HOURS,
  degreeHoursPassed,
  meanCelsius,
  stretches,
  stretchesSeenThen,
  timeAbove,
  type CelsiusPoint,
  type Stretch,
} from './warmth.js';

const HOUR = 3_600_000;
/** The general boundary a blended sample has to reach in time. Source: handbook 3.3, 6.1. */
export const ACID_BOUNDARY = 4.6;
/** A first sample this early tells what the produce itself brings. */
const START_HOURS = 12;

/** Hours to reach pH 4.6 by mean temperature; a boundary temperature belongs to the cooler row. Source: handbook 3.3. */
export const ACID_BY = [
  { key: 'above20', aboveCelsius: 20, hours: 72, words: 'above 20 °C' },
  { key: 'above15', aboveCelsius: 15, hours: 120, words: 'above 15 to 20 °C' },
  { key: 'above10', aboveCelsius: 10, hours: 240, words: 'above 10 to 15 °C' },
  { key: 'cold', aboveCelsius: -Infinity, hours: 504, words: '10 °C and below' },
] as const;
export type AcidByKey = (typeof ACID_BY)[number]['key'];
export type AcidByHours = Readonly<Partial<Record<AcidByKey, number>>>;

export interface AcidByRow {
  readonly key: AcidByKey;
  readonly hours: number;
  readonly words: string;
  readonly aboveCelsius: number;
}

/** The table as this house has it: shortened, never lengthened, and no warmer row longer than a cooler one. */
export function acidByRows(house: AcidByHours = {}): readonly AcidByRow[] {
  let longest = Infinity;
  return [...ACID_BY]
    .reverse()
    .map((row) => {
      longest = Math.min(longest, row.hours, house[row.key] ?? row.hours);
      return { ...row, hours: longest };
    })
    .reverse();
}

/**
 * The row of a mean temperature; the house may shorten its hours, never lengthen them. Nothing is rounded first.
 * @example acidByRow(20) //=> { key: 'above15', hours: 120, … }
 * @example acidByRow(20.004) //=> { key: 'above20', hours: 72, … }
 */
export function acidByRow(celsius: number, house: AcidByHours = {}): AcidByRow {
  if (!Number.isFinite(celsius)) throw new RangeError('a mean temperature is needed');
  return acidByRows(house).find(({ aboveCelsius }) => celsius > aboveCelsius)!;
}

export interface Lateness {
  readonly state: 'met' | 'metLate' | 'pending' | 'late' | 'throwOut';
  /** When it is, or was, late. */
  readonly deadline: number;
  /** When a reading that counts first stood at 4.6 or lower. */
  readonly reachedAt: number | null;
  readonly meanCelsius: number;
  readonly hours: number;
  readonly by: 'table' | 'degreeHours';
  /** Late, and nobody had read it by then. */
  readonly unread: boolean;
  /** From here on a reading above 4.6 is thrown out. */
  readonly twice: number;
  readonly words: string;
}

export interface LatenessInput {
  readonly filledAt: number;
  readonly now: number;
  readonly phs: readonly PhPoint[];
  readonly celsius: readonly CelsiusPoint[];
  readonly roomCelsius: number;
  readonly house?: AcidByHours;
}

/**
 * Whether acid came in time: 4.6 by a reading that counts, before the vessel is late. It is late from the first
 * moment at which the hours since filling passed the row of the mean up to then, or its degree-hours passed 1,600;
 * cooling or warming afterwards does not take that back, and a reading is judged as of its own time, whenever it was
 * entered. What starts at or under 4.6 meets it from the start. Above 4.6 at twice the hours of that row: thrown out.
 * Moments in ms. Source: handbook 3.3, worked case W14.
 */
export function lateness(input: LatenessInput): Lateness {
  const { filledAt, now, roomCelsius } = input;
  const read = counting(input.phs).filter(({ at }) => at >= filledAt && at <= now);
  const low = read.find(({ ph }) => ph <= ACID_BOUNDARY);
  const startedLow =
    read[0] !== undefined && read[0].ph <= ACID_BOUNDARY && read[0].at - filledAt <= START_HOURS * HOUR;
  const reachedAt = startedLow ? filledAt : (low?.at ?? null);
  const until = reachedAt === null || reachedAt === filledAt ? now : Math.max(reachedAt, filledAt);
  const course = { filledAt, until, points: input.celsius, roomCelsius };
  const all = stretches(course);
  // Late is late, also when a later gap makes the room stand where a reading stood at the time.
  const courses = [all, ...stretchesSeenThen(course)].flatMap((seen) => lateByTable(seen, input.house) ?? []);
  const table = courses.reduce<(typeof courses)[number] | null>(
    (first, one) => (first && first.time <= one.time ? first : one),
    null,
  );
  const byDegrees = degreeHoursPassed({ filledAt, until, points: input.celsius });
  const tableAt = table ? filledAt + table.time : null;
  const by = byDegrees !== null && (tableAt === null || byDegrees < tableAt) ? 'degreeHours' : 'table';
  const lateAt = by === 'degreeHours' ? byDegrees : tableAt;
  // The mean that counted: up to the lateness, where there is one, and the row of that mean.
  const seen = by === 'table' && table ? table.all : all;
  const mean = meanCelsius(lateAt === null ? seen : clipped(seen, lateAt - filledAt), roomCelsius);
  const row = by === 'table' && table ? table.row : acidByRow(mean, input.house);
  const deadline = lateAt ?? filledAt + row.hours * HOUR;
  const twice = filledAt + 2 * row.hours * HOUR;
  const hours = (deadline - filledAt) / HOUR;
  const words =
    by === 'table'
      ? `4.6 within ${daysWords(row.hours)} at a mean of ${mean.toFixed(1)} °C`
      : `4.6 within ${DEGREE_HOURS.toLocaleString('en')} degree-hours above 4 °C, reached after ${Math.round(hours)} h`;
  const passed = lateAt !== null;
  const inTime = reachedAt !== null && (reachedAt <= deadline || !passed);
  const unread =
    !inTime && passed && !input.phs.some(({ at, ph }) => Number.isFinite(ph) && at >= filledAt && at <= deadline);
  const common = { deadline, reachedAt, meanCelsius: mean, hours, by, words, unread, twice } as const;
  if (inTime) return { state: 'met', ...common };
  if (!passed) return { state: 'pending', ...common };
  if (thrownOut({ read, deadline, twice, now })) return { state: 'throwOut', ...common };
  return { state: reachedAt === null ? 'late' : 'metLate', ...common };
}

/** Still above 4.6 at twice the deadline, by the last look after the deadline, or read so at any time afterwards. */
function thrownOut({
  read,
  deadline,
  twice,
  now,
}: {
  read: readonly PhPoint[];
  deadline: number;
  twice: number;
  now: number;
}): boolean {
  if (now < twice) return false;
  const standing = read.findLast(({ at }) => at <= twice);
  if (standing && standing.at >= deadline && standing.ph > ACID_BOUNDARY) return true;
  return read.some(({ at, ph }) => at >= twice && ph > ACID_BOUNDARY);
}

/** The first moment, in ms after filling, at which that time has passed the row of the mean up to then. */
function lateByTable(
  all: readonly Stretch[],
  house: AcidByHours | undefined,
): { time: number; row: AcidByRow; all: readonly Stretch[] } | null {
  const found = acidByRows(house).flatMap((row) => {
    const end = all.at(-1)?.to ?? 0;
    const least = row.hours * HOUR;
    const time =
      row.aboveCelsius === -Infinity
        ? end >= least
          ? least
          : null
        : timeAbove({ all, bound: row.aboveCelsius, from: least });
    return time === null ? [] : [{ time, row, all }];
  });
  return found.reduce<(typeof found)[number] | null>(
    (first, one) => (first && first.time <= one.time ? first : one),
    null,
  );
}

const clipped = (all: readonly Stretch[], end: number): Stretch[] =>
  all.filter(({ from }) => from < end).map((one) => ({ ...one, to: Math.min(one.to, end) }));

const daysWords = (hours: number): string => (hours <= 72 || hours % 24 !== 0 ? `${hours} h` : `${hours / 24} days`);

/** What a late vessel is looked at for. Source: handbook 3.3. */
export const LATE_CHECKLIST = [
  'The meter: calibrate it and read again, blended',
  'The salt: was it weighed, is it even, is it too much?',
  'The temperature of the room, and of the vessel’s middle',
  'Chlorine in the water',
  'Preservatives, wax or sprays on the produce',
  'Was the brine still hot when it was poured?',
  'Was the produce frozen?',
] as const;
