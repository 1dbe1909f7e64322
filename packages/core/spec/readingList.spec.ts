import { readReadings } from '../src/index.js';

const NOW = Date.parse('2026-11-26T08:00:00Z');
const FROM = Date.parse('2026-11-10T09:00:00Z');
const read = (text: string, decimalMark: 'point' | 'comma' = 'point') =>
  readReadings({
    rows: text.split('\n').map((line) => line.split(';')),
    now: NOW,
    from: FROM,
    timeZone: 'Europe/Dublin',
    decimalMark,
  });
const short = (text: string, decimalMark?: 'point' | 'comma') =>
  read(text, decimalMark).map(({ at, ph, celsius, errors }) => [
    at === null ? null : new Date(at).toISOString().slice(0, 16),
    ph,
    celsius,
    ...errors,
  ]);

describe('readings of a notebook', () => {
  it('day and time in two columns, then pH and °C', () =>
    expect(short('12.11.;8:15;5.20;18\n13 Nov;18.30;4,70;17.5 C', 'comma').map((row) => row.slice(0, 2))).toEqual([
      ['2026-11-12T08:15', 5.2],
      ['2026-11-13T18:30', 4.7],
    ]));
  it('the moment in one column', () =>
    expect(short('12 Nov 8:15;5.2\nyesterday 17:40;3.6;14')).toEqual([
      ['2026-11-12T08:15', 5.2, null],
      ['2026-11-25T17:40', 3.6, 14],
    ]));
  it('a pH of two places behind a moment is a pH, though it looks like a time', () =>
    expect(short('2 h ago;3.62\n12 Nov 8:15;3.55\n13 Nov;8.15;3.55\nyesterday 17:40;4.10;14')).toEqual([
      ['2026-11-26T06:00', 3.62, null],
      ['2026-11-12T08:15', 3.55, null],
      ['2026-11-13T08:15', 3.55, null],
      ['2026-11-25T17:40', 4.1, 14],
    ]));
  it('a first line of names, in any order, with degrees Fahrenheit', () =>
    expect(short('pH;Temp °F;Date;Time\n5.2;64.4;12 Nov;8:15')).toEqual([['2026-11-12T08:15', 5.2, 18]]));
  it('a temperature alone, a gap, an empty line', () =>
    expect(short('12 Nov;8:15;-;18\n;;;\n13 Nov;8:00;4.9;')).toEqual([
      ['2026-11-12T08:15', null, 18],
      ['2026-11-13T08:00', 4.9, null],
    ]));
  for (const [line, words] of [
    ['9 Nov;8:15;5.9;18', /before the vessel was filled/],
    ['29 Nov;8:15;5.9;18', /is not yet/],
    ['12 Nov;;5.2;18', /no time of day/],
    ['12 Nov;8:15;45;18', /Did you mean 4\.5/],
    ['12 Nov;8:15;8.9;18', /rare in a ferment/],
    ['12 Nov;8:15;5.2;640', /−5 to 130/],
    ['12 Nov;8:15;sour;18', /sour/],
    ['12 Nov;8:15;;', /neither a pH nor a temperature/],
  ] as const)
    it(`“${line}” says what is to be mended`, () => {
      const [only] = read(line);
      expect(only!.errors.join(' ')).toMatch(words);
    });
  it('a minute that stands there twice is asked about at the second', () => {
    const [first, second] = read('12 Nov;8:15;5.2\n12 Nov;8:15;5.3');
    expect(first!.errors).toEqual([]);
    expect(second!.errors).toEqual(['Line 1 is of the same minute.']);
  });
  it('what was on a line can be found again', () => {
    const [, second] = read('Day;Time;pH\n12 Nov;8:15;5.2\n13 Nov;8:15;x');
    expect([second!.line, second!.said]).toEqual([3, '13 Nov, 8:15, x']);
  });
});
