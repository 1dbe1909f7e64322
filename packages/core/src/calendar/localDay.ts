import { utcOf } from './bounds.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const MOST_KEPT = 20_000;
const clocks = new Map<string, Intl.DateTimeFormat>();
const offsets = new Map<string, number>();

/** Milliseconds the local clock is ahead of UTC. Asking the formatter is slow: an offset is kept for its quarter of an hour. */
export function offsetAt(at: number, timeZone: string): number {
  const quarter = Math.floor(at / (HOUR / 4));
  const key = `${timeZone} ${quarter}`;
  const known = offsets.get(key);
  if (known !== undefined) return known;
  let clock = clocks.get(timeZone);
  if (!clock)
    clocks.set(
      timeZone,
      (clock = new Intl.DateTimeFormat('en-GB', {
        timeZone,
        year: 'numeric',
        month: '2-digit',
        day: '2-digit',
        hour: '2-digit',
        minute: '2-digit',
        second: '2-digit',
        hourCycle: 'h23',
      })),
    );
  const start = quarter * (HOUR / 4);
  const part = Object.fromEntries(clock.formatToParts(start).map(({ type, value }) => [type, Number(value)])) as Record<
    string,
    number
  >;
  const offset =
    utcOf(part['year']!, part['month']!, part['day']!, part['hour'], part['minute'], part['second']) - start;
  if (offsets.size > MOST_KEPT) offsets.clear();
  offsets.set(key, offset);
  return offset;
}

/**
 * The beginning of a later local day: `laterLocalDay(filledAt, 5, zone)` is the midnight that begins day 5, also
 * across the days the clock is changed.
 * @example laterLocalDay(Date.parse('2026-10-24T12:00Z'), 2, 'Europe/Dublin') //=> Date.parse('2026-10-26T00:00Z')
 */
export function laterLocalDay(at: number, days: number, timeZone: string): number {
  const wall = Math.floor((at + offsetAt(at, timeZone)) / DAY) * DAY + days * DAY;
  const guess = wall - offsetAt(wall, timeZone);
  // By the offsets on both sides of it: where the clock is put forward at midnight a day begins at one, and where it is
  // put back it begins at the first of two midnights.
  const begins = [guess - 3 * HOUR, guess + 3 * HOUR]
    .map((near) => wall - offsetAt(near, timeZone))
    .filter((moment) => moment + offsetAt(moment, timeZone) >= wall);
  return begins.length > 0 ? Math.min(...begins) : guess;
}

/** How many local midnights lie between two moments: the day number, by arithmetic. */
export const localDaysBetween = (from: number, to: number, timeZone: string): number =>
  Math.floor((to + offsetAt(to, timeZone)) / DAY) - Math.floor((from + offsetAt(from, timeZone)) / DAY);

/** The moment a local calendar day begins. */
export const startOfLocalDay = (at: number, timeZone: string): number => laterLocalDay(at, 0, timeZone);

/**
 * From its midnight to the next: the moments of a day of the calendar, 23 or 25 hours long where the clock is changed.
 * @example momentsOfDay('2026-10-25', 'Europe/Dublin') //=> 25 hours from 2026-10-24T23:00Z
 */
export function momentsOfDay(day: string, timeZone: string): { from: number; to: number } {
  const noon = Date.parse(`${day}T12:00:00Z`);
  const at = noon - offsetAt(noon, timeZone);
  return { from: startOfLocalDay(at, timeZone), to: laterLocalDay(at, 1, timeZone) };
}

/**
 * A moment in the middle of a day of the calendar, for what is known by its day alone. It is noon of the world's clock
 * wherever that lies within the day; east of the twelfth hour it lies in the next, and the day's own middle is taken.
 * @example noonOfDay('2026-11-24', 'Europe/Dublin') //=> Date.parse('2026-11-24T12:00Z')
 * @example noonOfDay('2026-11-24', 'Pacific/Auckland') //=> Date.parse('2026-11-23T23:00Z')
 */
export function noonOfDay(day: string, timeZone: string): number {
  const noon = Date.parse(`${day}T12:00:00Z`);
  const { from, to } = momentsOfDay(day, timeZone);
  return noon >= from && noon < to ? noon : from + (to - from) / 2;
}
