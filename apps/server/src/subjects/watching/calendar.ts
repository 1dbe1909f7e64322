import ical from 'ical-generator';
import type { Reader } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { loadHouse } from '../../lots/house.js';
import { loadWatched } from '../../lots/watched.js';

const HOUR = 3_600_000;

/**
 * Due checks and ready windows as an iCalendar feed (RFC 5545): any calendar can subscribe to it. Checks of one
 * vessel on one day are one event.
 */
export async function calendarOf(reader: Reader, input: { now: Date; base: string }): Promise<string> {
  const { now, base } = input;
  const { name, timeZone } = await loadHouse(reader);
  const dayOf = new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' });
  const calendar = ical({ name: `${name}: rounds`, prodId: { company: 'Clear Tally', product: 'rounds' }, ttl: 900 });
  for (const vessel of await loadWatched(reader, now)) {
    const url = `${base}/lots/${encodeURIComponent(vessel.code)}`;
    const days = groupBy(
      vessel.due.filter(({ state }) => state !== 'waits'),
      ({ due, state }) => dayOf.format(state === 'late' ? now : new Date(due)),
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
        start: new Date(vessel.window.from),
        end: new Date(vessel.window.to),
        allDay: true,
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
        start: new Date(from),
        end: new Date(until),
        allDay: true,
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
