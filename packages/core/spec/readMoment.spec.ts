import fc from 'fast-check';
import { readMoment } from '../src/index.js';

const DUBLIN = 'Europe/Dublin';
/** A Thursday morning, in winter: the house's clock is UTC. */
const NOW = Date.parse('2026-11-26T08:00:00Z');

describe('a moment of work, as people write it', () => {
  for (const [text, at] of [
    ['now', '2026-11-26T08:00:00Z'],
    ['7:05', '2026-11-26T07:05:00Z'],
    ['07.05', '2026-11-26T07:05:00Z'],
    ['7h05', '2026-11-26T07:05:00Z'],
    ['at 7:05', '2026-11-26T07:05:00Z'],
    ['7:05 am', '2026-11-26T07:05:00Z'],
    ['12:10 am', '2026-11-26T00:10:00Z'],
    ['yesterday 17:40', '2026-11-25T17:40:00Z'],
    ['Yesterday, at 5:40 pm', '2026-11-25T17:40:00Z'],
    ['yesterday 5 p.m.', '2026-11-25T17:00:00Z'],
    ['yesterday 12 pm', '2026-11-25T12:00:00Z'],
    ['Mon 8:15', '2026-11-23T08:15:00Z'],
    ['thursday 7:59', '2026-11-26T07:59:00Z'],
    ['Tues 8:15', '2026-11-24T08:15:00Z'],
    ['25 Nov 17:40', '2026-11-25T17:40:00Z'],
    ['25.11. 17.40', '2026-11-25T17:40:00Z'],
    ['Wed 25 Nov 17:40', '2026-11-25T17:40:00Z'],
    ['2026-11-25 17:40', '2026-11-25T17:40:00Z'],
    ['25 June 17:40', '2026-06-25T16:40:00Z'],
    ['28 Dec 2025 9:00', '2025-12-28T09:00:00Z'],
    ['2 h ago', '2026-11-26T06:00:00Z'],
    ['half an hour ago', '2026-11-26T07:30:00Z'],
    ['an hour ago', '2026-11-26T07:00:00Z'],
    ['20 min ago', '2026-11-26T07:40:00Z'],
    ['1 h 20 min ago', '2026-11-26T06:40:00Z'],
    ['3 days ago', '2026-11-23T08:00:00Z'],
    // The clock is put back on 25 Oct: an hour is there twice, and which is said.
    ['25 Oct 1:30 first', '2026-10-25T00:30:00Z'],
    ['25 Oct 1:30 second', '2026-10-25T01:30:00Z'],
    ['25 Oct 2:30', '2026-10-25T02:30:00Z'],
  ] as const)
    it(`“${text}” is ${at}`, () =>
      expect(readMoment({ text, now: NOW, timeZone: DUBLIN })).toEqual({ at: Date.parse(at), problem: null }));

  for (const [text, words] of [
    ['17:40', /17:40 is not yet today\. Write “yesterday 17:40”/],
    ['tomorrow 8:00', /is not yet/],
    ['29 Nov 8:00', /is not yet/],
    ['25 Oct 1:30', /there twice on 2026-10-25.*“first” or “second”/],
    ['29 Mar 1:30', /left out on 2026-03-29/],
    ['25 Nov', /is no time of day/],
    ['yesterday', /is no time of day/],
    ['yesterday 25:00', /is no time of day/],
    ['13:00 pm', /is no time of day/],
    ['evening', /is no time of day/],
    ['3/4/2026 8:00', /can be 3 Apr or 4 Mar/],
    ['26 8:00', /is no day/],
    ['31 Feb 8:00', /no day of the calendar/],
    ['', /^“17:40”, “yesterday 17:40”/],
  ] as const)
    it(`“${text}” is asked about`, () => {
      const read = readMoment({ text, now: NOW, timeZone: DUBLIN });
      expect(read.at).toBeNull();
      expect(read.problem!).toMatch(words);
    });

  it('whatever minute the house’s clock shows, written out, is that minute, in every zone', () => {
    const clock = (zone: string) =>
      new Intl.DateTimeFormat('en-CA', {
        timeZone: zone,
        year: 'numeric',
        month: '2-digit',
        day: '2-digit',
        hour: '2-digit',
        minute: '2-digit',
        hourCycle: 'h23',
      });
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 525_600 }),
        fc.constantFrom(DUBLIN, 'Pacific/Auckland', 'America/St_Johns', 'Asia/Kathmandu', 'America/Santiago'),
        (minutes, timeZone) => {
          const at = NOW - minutes * 60_000;
          const part = (type: string): string =>
            clock(timeZone)
              .formatToParts(at)
              .find((one) => one.type === type)!.value;
          const text = `${part('year')}-${part('month')}-${part('day')} ${part('hour')}:${part('minute')}`;
          const read = readMoment({ text, now: NOW, timeZone });
          // In the hour a clock change repeats it is asked which, and both answers are tried.
          const answers =
            read.at === null
              ? ['first', 'second'].map((turn) => readMoment({ text: `${text} ${turn}`, now: NOW, timeZone }).at)
              : [read.at];
          return answers.includes(at);
        },
      ),
      { numRuns: 400 },
    );
  });
});
