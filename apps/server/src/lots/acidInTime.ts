import {
  ACID_BOUNDARY,
  type CelsiusPoint,
  clockOf,
  counts,
  type Lateness,
  lateness,
  type MixedPart,
} from '@clear-tally/core';
import type { ReadPoint } from './readings.js';

/** What came into a vessel from another: how old it was, and whether its acid had come by then. */
export interface OtherPart {
  readonly at: number;
  readonly filledAt: number;
  readonly met: boolean;
}

export interface AcidKnown {
  readonly now: number;
  readonly phs: readonly ReadPoint[];
  readonly celsius: readonly CelsiusPoint[];
  readonly house: Parameters<typeof lateness>[0]['house'];
  readonly roomCelsius: number;
  readonly filledAt: number;
  readonly parts: readonly OtherPart[];
}

/**
 * Acid in time. What was poured in from another vessel starts the clock of the youngest part whose acid had not come.
 * Nobody knows when a vessel from before the ledger turned sour: only a reading that is too high speaks of it.
 */
export function latenessOf(fill: { readonly origin: string }, known: AcidKnown): Lateness {
  const { now, phs, celsius, house: rows_, roomCelsius, filledAt, parts } = known;
  const reckon = (from: number, until: number, points: readonly ReadPoint[]): Lateness =>
    lateness({ filledAt: from, now: until, phs: points, celsius, roomCelsius, house: rows_ });
  // Its own early days are told by what was read then, whatever was poured in later.
  const asItWas = phs.map((point): ReadPoint => (point.beforeMixture ? { ...point, beforeMixture: false } : point));
  const own = reckon(filledAt, now, asItWas);
  const found = parts.length === 0 ? own : mixed();
  const high = phs.findLast(counts);
  return fill.origin === 'beforeLedger' && !(high && high.ph > ACID_BOUNDARY)
    ? { ...found, state: 'pending', words: 'before these records: its early days are not known' }
    : found;

  function mixed(): Lateness {
    const at = Math.max(...parts.map((part) => part.at));
    const mine: MixedPart = {
      filledAt,
      met:
        reckon(
          filledAt,
          at,
          asItWas.filter((point) => point.at <= at),
        ).state === 'met',
    };
    const clock = clockOf([mine, ...parts]);
    return clock === null
      ? own
      : reckon(
          clock,
          now,
          phs.filter((point) => !point.beforeMixture && point.at > at),
        );
  }
}
