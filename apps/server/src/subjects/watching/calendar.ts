import { isoDay } from '@clear-tally/core';
import ical from 'ical-generator';
import type { Reader } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { loadHouse } from '../../lots/house.js';
import { loadWatched } from '../../lots/watched.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/**
 * Days of the house's calendar, from the one moment's to the other's. A calendar reads them without an hour, as the day
 * of the world's clock; its end is the day after the last.
 */
function wholeDays(from: number, until: number, timeZone: string): { start: Date; end: Date; allDay: true } {
  const midnight = (at: number): number => Date.parse(`${isoDay(at, timeZone)}T00:00:00Z`);
  return { start: new Date(midnight(from)), end: new Date(midnight(until) + DAY), allDay: true };
}

/**
 * Due checks and ready windows as an iCalendar feed (RFC 5545): any calendar can subscribe to it. Checks of one
 * vessel on one day are one event.
 */
export async function calendarOf(reader: Reader, input: { now: Date; base: string }): Promise<string> {
  const { now, base } = input;
  const { name, timeZone } = await loadHouse(reader);
  const calendar = ical({ name: `${name}: rounds`, prodId: { company: 'Clear Tally', product: 'rounds' }, ttl: 900 });
  for (const vessel of await loadWatched(reader, now)) {
    const url = `${base}/lots/${encodeURIComponent(vessel.code)}`;
    const days = groupBy(
      vessel.due.filter(({ state }) => state !== 'waits'),
      ({ due, state }) => isoDay(state === 'late' ? now.getTime() : due, timeZone),
    );
    for (const [day, checks] of days) {
      const start = checks.some(({ state }) => state === 'late')
        ? now.getTime()
        : Math.min(...checks.map(({ due }) => due));
      calendar.createEvent({
        id: `${vessel.lotId}-${day}@clear-tally`,
        start: new Date(start),
        end: new Date(start + HOUR / 4),
        summary: `${vessel.vesselTag}: ${checks.map(({ name: what, state }) => `${what}${state === 'late' ? ' (late)' : ''}`).join(', ')}`,
        description: `${vessel.name}, ${vessel.code}, day ${vessel.day}`,
        location: vessel.vesselTag,
        url,
      });
    }
    if (vessel.window.to > now.getTime() && !vessel.ready) {
      calendar.createEvent({
        id: `${vessel.lotId}-ready@clear-tally`,
        ...wholeDays(vessel.window.from, vessel.window.to, timeZone),
        summary: `${vessel.vesselTag}: ready window of ${vessel.name}`,
        description: `${[vessel.window.why, vessel.window.says].filter(Boolean).join(': ')}. Measure to confirm. "Ready" is said by a person.`,
        url,
      });
    }
    const best = vessel.window.best;
    if (best && (best.until ?? Infinity) > now.getTime()) {
      const [from, until] = [best.from ?? best.until!, best.until ?? best.from!];
      calendar.createEvent({
        id: `${vessel.lotId}-best@clear-tally`,
        ...wholeDays(from, until, timeZone),
        summary: `${vessel.vesselTag}: ${vessel.name} at its best`,
        description: best.chilled
          ? 'After chilling, by its formula.'
          : 'If it goes to the cold on its day, by its formula.',
        url,
      });
    }
  }
  return calendar.toString();
}
