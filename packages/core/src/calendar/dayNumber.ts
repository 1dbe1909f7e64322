import { utcOf } from './bounds.js';

/** Year, month, day and day of year of a moment in a time zone. */
export function localDate(
  at: number,
  timeZone: string,
): { year: number; month: number; day: number; dayOfYear: number } {
  const parts = Object.fromEntries(
    dateFormat(timeZone)
      .formatToParts(at)
      .map((part) => [part.type, Number(part.value)]),
  );
  const { year, month, day } = parts as { year: number; month: number; day: number };
  return { year, month, day, dayOfYear: daysSince(utcOf(year, 1, 1), utcOf(year, month, day)) + 1 };
}

/** The calendar day of a moment in a time zone: `2026-11-24`. */
export function isoDay(at: number, timeZone: string): string {
  const { year, month, day } = localDate(at, timeZone);
  return [String(year).padStart(4, '0'), String(month).padStart(2, '0'), String(day).padStart(2, '0')].join('-');
}

/**
 * Day number of a fill: the local calendar date minus the fill date. Filled = day 0. Source: handbook 7, W24.
 * @example dayNumber({ filledAt: Date.parse('2026-11-17T15:40Z'), at: Date.parse('2026-11-24T08:00Z'), timeZone: 'UTC' }) //=> 7
 */
export function dayNumber(input: { filledAt: number; at: number; timeZone: string }): number {
  const filled = localDate(input.filledAt, input.timeZone);
  const now = localDate(input.at, input.timeZone);
  return daysSince(utcOf(filled.year, filled.month, filled.day), utcOf(now.year, now.month, now.day));
}

/** Hours since the fill, which drive rules and forecast. */
export const elapsedHours = (input: { filledAt: number; at: number }): number =>
  (input.at - input.filledAt) / 3_600_000;

const daysSince = (from: number, to: number): number => Math.round((to - from) / 86_400_000);

// Building a formatter costs more than using it; a house has one or two zones.
const formats = new Map<string, Intl.DateTimeFormat>();
function dateFormat(timeZone: string): Intl.DateTimeFormat {
  let format = formats.get(timeZone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', { timeZone, year: 'numeric', month: 'numeric', day: 'numeric' });
    formats.set(timeZone, format);
  }
  return format;
}
