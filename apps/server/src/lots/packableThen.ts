import { CLOCK_SKEW_MS } from '@clear-tally/core';
import { ask } from '../journal/asItHappened.js';
import type { InHand } from '../journal/handler.js';
import type { LotRow } from './lots.js';
import { loadPast } from './watched.js';

/**
 * What is said of an earlier moment was packable by what had been read by then: a reading made afterwards opens nothing
 * before it. @throws {Refused}
 */
export async function refuseUnripeThen({ tx, at, recordedAt }: InHand, fills: readonly LotRow[]): Promise<void> {
  if (recordedAt.getTime() - at.getTime() <= CLOCK_SKEW_MS) return;
  const then = await loadPast(
    tx,
    fills.map(({ id }) => ({ lotId: id, at })),
  );
  for (const { packable } of then) ask(tx, packable);
}
