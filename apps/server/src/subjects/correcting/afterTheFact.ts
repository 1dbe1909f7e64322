import type { Change, Entry } from '@clear-tally/contract';
import { CLOCK_SKEW_MS } from '@clear-tally/core';
import { inArray } from 'drizzle-orm';
import type { Reader } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { kindOf } from '../../journal/registry.js';
import { changesBetween, figuresOf } from './figures.js';

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/**
 * Records something that happened before, and says what it changes after the fact: a deadline that was met or missed
 * meanwhile, a check that was made, what stands in a vessel. What happens now changes what it changes, and says nothing.
 */
export async function sayingWhatChanged<T>(
  reader: Reader,
  { entries, now }: { entries: readonly Entry[]; now: Date },
  record: () => Promise<T>,
): Promise<{ answer: T; changes: Change[] }> {
  const late = entries.filter(
    ({ kind, happenedAt }) => now.getTime() - Date.parse(happenedAt) > CLOCK_SKEW_MS && !kindOf(kind).reachesLater,
  );
  const named = [...new Set(JSON.stringify(late.map(({ body }) => body)).match(UUID) ?? [])];
  if (named.length === 0) return { answer: await record(), changes: [] };
  const lots = (await reader.select({ id: lot.id }).from(lot).where(inArray(lot.id, named))).map(({ id }) => id);
  const was = await figuresOf(reader, lots, now);
  const answer = await record();
  return { answer, changes: changesBetween(was, await figuresOf(reader, lots, now)) };
}
