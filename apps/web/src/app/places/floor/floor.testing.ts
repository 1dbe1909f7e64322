import type { FloorReply, FloorVessel } from '@clear-tally/contract';

export const NOW = Date.parse('2026-11-23T08:00:00Z');
const HOUR = 3_600_000;
let made = 0;

/** A check as the floor shows it: due by its state. */
export const check = (
  what: FloorVessel['checks'][number]['what'],
  state: FloorVessel['checks'][number]['state'],
  more: Partial<FloorVessel['checks'][number]> = {},
): FloorVessel['checks'][number] => ({
  key: what,
  what,
  words: null,
  name: what,
  rule: 'every day',
  from: NOW - 2 * HOUR,
  due: state === 'late' ? NOW - 5 * HOUR : NOW + 4 * HOUR,
  late: NOW + 6 * HOUR,
  state,
  missed: 0,
  mayBeQuiet: ['look', 'level', 'press', 'airlock', 'own'].includes(what),
  asks: null,
  why: null,
  ...more,
});

/** A vessel on the floor. */
export function vessel(tag: string, more: Partial<FloorVessel> = {}): FloorVessel {
  made += 1;
  return {
    lotId: `018f6b1e-0000-7000-8000-${String(made).padStart(12, '0')}`,
    code: `NY26-300-A-${tag}`,
    name: 'Baby turnips',
    vesselTag: tag,
    shape: 'glass',
    closure: 'airlock',
    roomId: 'r1',
    brimMl: 5000,
    maxFill: 0.9,
    fillGrams: 4000,
    filledAt: '2026-11-16T09:00:00Z',
    day: 7,
    lastPh: 3.7,
    lastPhAt: null,
    phCounts: true,
    readings: 3,
    hold: null,
    seen: null,
    batchCode: 'NY26-300-A',
    formulaNumber: 2,
    due: 0,
    late: 0,
    batchId: '018f6b1e-0000-7000-8000-00000000bbbb',
    checks: [],
    holds: [],
    trend: { direction: 'falling', ph: 3.7, at: NOW - 48 * HOUR, rise: 0, sample: 'blended', counts: null },
    lateness: {
      state: 'met',
      deadline: NOW,
      reachedAt: NOW - 60 * HOUR,
      words: '4.6 within 5 days',
      hours: 120,
      unread: false,
    },
    temperature: { verdict: 'met', words: '' },
    ready: false,
    readyFrom: NOW,
    readyTo: NOW,
    window: { why: 'by its formula', says: '', tasteDay: null, coldOn: null, best: null },
    lastDay: null,
    odd: false,
    ...more,
  };
}

export const floor = (vessels: FloorVessel[]): FloorReply => ({
  now: new Date(NOW).toISOString(),
  rooms: [
    { id: 'r1', name: 'Net loft', celsius: 19.4 },
    { id: 'r2', name: 'Stone cellar', celsius: null },
  ],
  vessels,
  faults: [],
});
