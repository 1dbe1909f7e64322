import {
  calendarDay,
  dayProblem,
  decideMoment,
  decideStarterAge,
  isoDay,
  momentInWords,
  noonOfDay,
} from '../src/index.js';

describe('days and moments in words', () => {
  it('a day is written as people write it, in every zone the same', () => {
    expect(calendarDay('2026-12-24')).toBe('24 Dec 2026');
    expect(calendarDay('2027-01-01')).toBe('1 Jan 2027');
  });
  it('what is known by its day alone stands within that day, in every zone and where the clock is changed', () => {
    const zones = ['Pacific/Auckland', 'Pacific/Kiritimati', 'Pacific/Pago_Pago', 'Europe/Dublin', 'America/Santiago'];
    for (const zone of [...zones, 'Asia/Kathmandu', 'UTC'])
      for (const day of ['2026-11-24', '2026-09-27', '2026-09-06', '2026-04-05', '2026-03-29', '2026-10-25'])
        expect(isoDay(noonOfDay(day, zone), zone))
          .withContext(`${day} ${zone}`)
          .toBe(day);
    expect(noonOfDay('2026-07-24', 'Europe/Dublin')).toBe(Date.parse('2026-07-24T12:00Z'));
    expect(noonOfDay('2026-11-24', 'Pacific/Auckland')).toBe(Date.parse('2026-11-23T23:00Z'));
  });
  it('a moment by the clock of its house', () => {
    const at = Date.parse('2026-07-24T16:40Z');
    expect(momentInWords(at, 'Europe/Dublin')).toBe('24 Jul 2026, 17:40');
    expect(momentInWords(at, 'Pacific/Auckland')).toBe('25 Jul 2026, 04:40');
  });
  it('no refusal shows a day or a moment as a program keeps it', () => {
    const refusals = [
      dayProblem('2026-12-24', '2026-11-25'),
      JSON.stringify(decideStarterAge({ code: 'KB-1', useBy: '2026-11-20', today: '2026-11-25' })),
      JSON.stringify(
        decideMoment({ happenedAt: Date.parse('2026-12-24T09:00Z'), now: Date.parse('2026-11-25T09:00Z') }),
      ),
    ];
    expect(refusals.map((words) => /\d{1,2} (Nov|Dec) 2026/.test(words ?? ''))).toEqual([true, true, true]);
    expect(refusals.join(' ')).not.toMatch(/T\d\d:\d\d/);
  });
});
