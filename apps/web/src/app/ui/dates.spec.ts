import { calendarDay, HouseDates } from './dates';

describe('dates as the house writes them', () => {
  it('in the time zone of the house, wherever the tablet is', () => {
    const dates = new HouseDates('Europe/Dublin', () => Date.parse('2026-12-31T23:30:00Z'));
    expect(dates.moment('2026-07-14T13:05:00Z')).toBe('Tue 14 Jul 14:05');
    expect(dates.day('2026-10-14T12:00:00Z')).toBe('Wed 14 Oct');
    expect(dates.moment('2025-10-14T12:00:00Z')).toBe('Tue 14 Oct 2025 13:00');
  });
  it('a calendar date stays its day, wherever the tablet stands', () =>
    expect(calendarDay('2026-12-24')).toBe('24 Dec 2026'));
});
