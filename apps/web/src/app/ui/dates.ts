import { isoDay } from '@clear-tally/core';

/** Dates as the house writes them, in the house's time zone. */
export class HouseDates {
  private readonly date: Intl.DateTimeFormat;
  private readonly year: Intl.DateTimeFormat;
  private readonly clock: Intl.DateTimeFormat;

  constructor(
    private readonly timeZone: string,
    private readonly now: () => number = Date.now,
  ) {
    this.date = new Intl.DateTimeFormat('en-GB', { timeZone, weekday: 'short', day: 'numeric', month: 'short' });
    this.year = new Intl.DateTimeFormat('en-GB', { timeZone, year: 'numeric' });
    this.clock = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' });
  }

  /** Which day of the calendar it is in the house: `2026-10-14`; so many days from now where that is said. */
  today(later = 0): string {
    const today = isoDay(this.now(), this.timeZone);
    return later === 0 ? today : dayAfter(today, later);
  }

  /** `Tue 14 Oct`; with its year where that is not this one: `Fri 21 Nov 2025`. */
  day(iso: string): string {
    const at = new Date(iso);
    const year = this.year.format(at);
    const day = this.date.format(at).replace(',', '');
    return year === this.year.format(this.now()) ? day : `${day} ${year}`;
  }

  /** `14:05` */
  time(iso: string): string {
    return this.clock.format(new Date(iso));
  }

  /** `Tue 14 Oct 14:05` */
  moment(iso: string): string {
    return `${this.day(iso)} ${this.time(iso)}`;
  }
}

/** So many days of the calendar later: `dayAfter('2026-02-28', 1) //=> '2026-03-01'`. */
export const dayAfter = (date: string, days: number): string =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

export { calendarDay } from '@clear-tally/core';
