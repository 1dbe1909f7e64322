import { decideWeighedOn } from '@clear-tally/core';
import { and, desc, eq, lte } from 'drizzle-orm';
import { toMilligrams } from '../db/schema/columns.js';
import { equipment, equipmentCheck, weighedOn } from '../db/schema/house.js';
import { ask } from '../journal/asItHappened.js';
import type { InHand } from '../journal/handler.js';
import { refused } from '../journal/refused.js';

interface Weighing {
  readonly scaleId?: string | undefined;
  readonly grams: number;
  readonly tareGrams?: number | undefined;
  /** What it went into. */
  readonly lotId: string;
}

/**
 * Keeps on which scale a mass was weighed, where that is said; a scale that is out of use, was found wrong, or cannot
 * show such a figure is refused.
 * @returns the scale's tag, for the facts of the entry
 */
export async function weighOn(recording: InHand, of: Weighing): Promise<{ scale?: string }> {
  if (of.scaleId === undefined) return {};
  const { tx, entry, at, seq } = recording;
  const [scale] = await tx.select().from(equipment).where(eq(equipment.id, of.scaleId));
  if (!scale || scale.kind !== 'scale' || scale.capacityGrams === null || scale.stepGrams === null)
    throw refused('scale.notFit', 'No such scale is in this house. Choose it from the list.', { field: 'scaleId' });
  const [last] = await tx
    .select({ passed: equipmentCheck.passed })
    .from(equipmentCheck)
    .where(and(eq(equipmentCheck.equipmentId, scale.id), lte(equipmentCheck.at, at)))
    .orderBy(desc(equipmentCheck.at), desc(equipmentCheck.seq))
    .limit(1);
  ask(
    tx,
    decideWeighedOn({
      tag: scale.tag,
      capacityGrams: scale.capacityGrams,
      stepGrams: scale.stepGrams,
      inUse: scale.inUse,
      passed: last?.passed ?? null,
      grams: of.grams,
      tareGrams: of.tareGrams,
    }),
  );
  await tx.insert(weighedOn).values({
    entryId: entry.id,
    equipmentId: scale.id,
    lotId: of.lotId,
    milligrams: toMilligrams(of.grams),
    at,
    seq,
  });
  return { scale: scale.tag };
}

/** For a line of the book: "on SC1". */
export const onScale = (facts: Readonly<Record<string, unknown>>): string | false =>
  typeof facts['scale'] === 'string' && `on ${facts['scale']}`;
