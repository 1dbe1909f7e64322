import fc from 'fast-check';
import { readDay } from '../src/index.js';

const today = '2026-11-26';

describe('a day as people type it', () => {
  for (const [text, day] of [
    ['29 Nov 2026', '2026-11-29'],
    ['29 november 2026', '2026-11-29'],
    ['Sun 29 Nov 2026', '2026-11-29'],
    ['29th Nov 2026', '2026-11-29'],
    ['Nov 29, 2026', '2026-11-29'],
    ['29.11.2026', '2026-11-29'],
    ['29. 11. 2026', '2026-11-29'],
    ['29.11.', '2026-11-29'],
    ['2026-11-29', '2026-11-29'],
    ['2026-1-5', '2026-01-05'],
    ['29/11/2026', '2026-11-29'],
    ['11/29/2026', '2026-11-29'],
    ['4/4/2026', '2026-04-04'],
    ['29 nov', '2026-11-29'],
    ['2 Jan', '2027-01-02'],
    ['20 Jun', '2026-06-20'],
    ['yesterday', '2026-11-25'],
    ['today', '2026-11-26'],
    ['tomorrow', '2026-11-27'],
    ['29 Feb 2028', '2028-02-29'],
  ] as const)
    it(`“${text}” is ${day}`, () => expect(readDay({ text, today })).toEqual({ day, problem: null }));

  for (const [text, why] of [
    ['3/4/2026', 'can be 3 Apr or 4 Mar'],
    ['3/4', 'can be 3 Apr or 4 Mar'],
    ['29.11.26', 'its year in four figures'],
    ['0026-11-25', 'a day from 1950-01-01 on'],
    ['26-11-25', 'its year in four figures'],
    ['29 Nov 26', 'its year in four figures'],
    ['29 Nov 20266', 'its year in four figures'],
    ['1.1.1949', 'a day from 1950-01-01 on'],
    ['29 Feb 2027', 'is no day of the calendar'],
    ['31.4.', 'is no day of the calendar'],
    ['32 Nov 2026', 'is no day of the calendar'],
    ['0/5', 'is no day of the calendar'],
    ['5/0', 'is no day of the calendar'],
    ['soon', 'is no day'],
    ['26', 'is no day'],
    ['29 Nov 2026 or so', 'is no day'],
    ['29 Novvember', 'is no day'],
  ] as const)
    it(`“${text}” ${why}`, () => {
      const read = readDay({ text, today });
      expect(read.day).toBeNull();
      expect(read.problem).toContain(why);
    });

  it('every day is understood again as it is written, by four hands', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date('1950-01-01'), max: new Date('2199-12-31'), noInvalidDate: true }), (at) => {
        const day = at.toISOString().slice(0, 10);
        const [year, month, date] = day.split('-').map(Number) as [number, number, number];
        const word = new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' }).format(at);
        for (const text of [day, `${date} ${word} ${year}`, `${word} ${date} ${year}`, `${date}.${month}.${year}`])
          expect(readDay({ text, today }).day).withContext(text).toBe(day);
      }),
    );
  });
  for (const text of ['__proto__', 'constructor', 'toString', 'hasOwnProperty'])
    it(`“${text}” is no day`, () => expect(readDay({ text, today }).problem).toContain('is no day'));
  it('whatever is typed is a day, or says why not', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[0-9./ a-z-]{0,14}$/)), (text) => {
        const { day, problem } = readDay({ text, today });
        expect((day === null) !== (problem === null)).toBeTrue();
        if (day !== null) expect(new Date(`${day}T00:00:00Z`).toISOString().slice(0, 10)).toBe(day);
      }),
    );
  });
});
