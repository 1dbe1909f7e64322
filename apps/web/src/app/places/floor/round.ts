import { counted } from '@clear-tally/core';
import type { FloorVessel } from '@clear-tally/contract';

export type Check = FloorVessel['checks'][number];

/** What is to be made now, what is late first. */
export const openChecks = (vessel: Pick<FloorVessel, 'checks'>): Check[] =>
  vessel.checks
    .filter(({ state }) => state === 'due' || state === 'late')
    .sort((a, b) => Number(b.state === 'late') - Number(a.state === 'late') || a.due - b.due);

/** The round: vessels with something due, those with something late first, else as one walks. */
export function roundOf(vessels: readonly FloorVessel[]): FloorVessel[] {
  const open = vessels.filter((vessel) => openChecks(vessel).length > 0);
  const isLate = (vessel: FloorVessel): boolean => openChecks(vessel).some(({ state }) => state === 'late');
  return [...open.filter(isLate), ...open.filter((vessel) => !isLate(vessel))];
}

/** `late 5 h`, `by 20:00`, `today`. */
export function whenWords(check: Check, now: number, time: (iso: string) => string): string {
  if (check.state === 'late') {
    const hours = Math.max(1, Math.round((now - check.due) / 3_600_000));
    return hours < 48 ? `late ${hours} h` : `late ${counted(Math.round(hours / 24), 'day')}`;
  }
  return check.due - now > 24 * 3_600_000
    ? 'in time'
    : check.due < now
      ? 'now'
      : `by ${time(new Date(check.due).toISOString())}`;
}

/** `last 3.71 on Fri 20 Nov, falling` */
export function trendWords(vessel: FloorVessel, day: (iso: string) => string): string {
  const { ph, at, direction, sample } = vessel.trend;
  if (ph === null || at === null) return 'no pH yet';
  return `last ${ph.toFixed(2)}${sample === 'brine' ? ' (brine)' : ''} on ${day(new Date(at).toISOString())}${direction === 'none' ? '' : `, ${direction}`}`;
}

/** What a look answers at once, of the checks that are open. */
export const quietChecks = (vessel: FloorVessel): Check[] => openChecks(vessel).filter(({ mayBeQuiet }) => mayBeQuiet);
