const dayFormat = new Intl.DateTimeFormat('en-GB', {
  timeZone: 'UTC',
  day: 'numeric',
  month: 'short',
  year: 'numeric',
});

/**
 * A day of the calendar as it is written. It has no hour, so no time zone moves it.
 * @example calendarDay('2026-12-24') //=> '24 Dec 2026'
 */
export const calendarDay = (day: string): string => dayFormat.format(new Date(`${day}T00:00:00Z`));

/**
 * A moment by the clock of a house.
 * @example momentInWords(Date.parse('2026-07-24T16:40Z'), 'Europe/Dublin') //=> '24 Jul 2026, 17:40'
 */
export const momentInWords = (at: number, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(at);
