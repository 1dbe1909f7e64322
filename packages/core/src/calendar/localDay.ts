import { localDate } from './dayNumber.js';

const HOUR = 3_600_000;
const clocks = new Map<string, Intl.DateTimeFormat>();

/** Hours of the local clock, as a fraction. */
function clockHours(at: number, timeZone: string): number {
  let clock = clocks.get(timeZone);
  if (!clock) clocks.set(timeZone, (clock = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23' })));
  const part = Object.fromEntries(clock.formatToParts(at).map(({ type, value }) => [type, Number(value)]));
  return part['hour']! + part['minute']! / 60 + part['second']! / 3600 + (at % 1000) / HOUR;
}

/**
 * The moment a local calendar day begins, also on the days the clock is changed.
 * @example startOfLocalDay(Date.parse('2026-11-24T08:00Z'), 'UTC') //=> Date.parse('2026-11-24T00:00Z')
 */
export function startOfLocalDay(at: number, timeZone: string): number {
  const day = localDate(at, timeZone).dayOfYear;
  let start = Math.round(at - clockHours(at, timeZone) * HOUR);
  if (localDate(start, timeZone).dayOfYear !== day) start += HOUR;
  const over = clockHours(start, timeZone);
  return over === 0 ? start : Math.round(start - over * HOUR);
}

/** The beginning of a later local day: `laterLocalDay(filledAt, 5, zone)` is the midnight that begins day 5. */
export const laterLocalDay = (at: number, days: number, timeZone: string): number => startOfLocalDay(startOfLocalDay(at, timeZone) + days * 24 * HOUR + 12 * HOUR, timeZone);
