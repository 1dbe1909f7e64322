import { calendarDay } from './inWords.js';

/** Before this nothing is recorded: what looks older is a year of two figures, or a slip. */
export const EARLIEST_DAY = '1950-01-01';
export const LATEST_DAY = '2199-12-31';
const EARLIEST = Date.UTC(1950, 0, 1);
const LATEST = Date.UTC(2200, 0, 1);

/** Milliseconds of a date as it is written: `Date.UTC` takes a year of two figures for one of the last century. */
export function utcOf(year: number, month: number, day: number, hour = 0, minute = 0, second = 0): number {
  const at = new Date(0);
  at.setUTCFullYear(year, month - 1, day);
  return at.setUTCHours(hour, minute, second, 0);
}

/** Moments in ms that this book can hold. */
export const isRecordable = (at: number): boolean => at >= EARLIEST && at < LATEST;

/**
 * A calendar day that this book can hold.
 * @example isRecordableDay('0026-11-25') //=> false: "26" typed as a year
 */
export const isRecordableDay = (day: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(day) && day >= EARLIEST_DAY && day <= LATEST_DAY;

/** What a day given as text is told when it cannot be held. */
export const dayWords = (day: string): string =>
  `“${day}” was given: a day from ${EARLIEST_DAY} on is accepted, its year in four figures, such as 2026`;

/** What stands in the way of a day being typed, or null; nothing typed is no problem. `latest`: not after this day. */
export function dayProblem(day: string, latest?: string): string | null {
  if (day === '') return null;
  if (!isRecordableDay(day)) return `${dayWords(day)}.`;
  return latest !== undefined && day > latest
    ? `“${day}” is still to come: up to ${calendarDay(latest)} is accepted here.`
    : null;
}
