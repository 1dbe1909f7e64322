import { heavySalt } from '@clear-tally/core';
import { and, eq, min, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { leafLog } from '../../db/schema/making.js';
import { liveMovement } from '../../db/schema/ledger.js';
import { toGrams } from '../../db/schema/columns.js';
import type { BatchState } from '../../lots/batchSalt.js';

/** When salt first went onto the leaf of a batch; null before. */
export async function firstSalted(reader: Reader, batchId: string): Promise<Date | null> {
  const [first] = await reader
    .select({ at: min(liveMovement.at) })
    .from(liveMovement)
    .where(and(eq(liveMovement.toLot, batchId), eq(liveMovement.kind, 'salt.weigh')));
  return first?.at ?? null;
}

/** The estimate of what was really done: salt as weighed, minutes as passed, each rinse with its own water. */
export async function leafEstimate(
  tx: Reader,
  batchId: string,
  state: BatchState,
  at: Date,
): Promise<{ estimate: number; least: number; most: number; rinses: number; minutes: number; waterFraction: number }> {
  const saltedAt = await firstSalted(tx, batchId);
  const rinses = await tx
    .select({ mg: leafLog.waterMilligrams, at: leafLog.at })
    .from(leafLog)
    .where(and(eq(leafLog.batchId, batchId), eq(leafLog.what, 'rinse')))
    .orderBy(leafLog.seq);
  const [leaf] = await rows<{ water: string | null }>(
    tx,
    sql`
    select sum(m.milligrams * x.water_fraction) as water from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = ${batchId} and m.kind = 'produce.weigh'`,
  );
  const soakedUntil = rinses[0] ? new Date(rinses[0].at) : at;
  const minutes = saltedAt ? Math.max(0, (soakedUntil.getTime() - saltedAt.getTime()) / 60_000) : 0;
  const waterFraction =
    state.produceGrams > 0 ? toGrams(Math.round(Number(leaf?.water ?? 0))) / state.produceGrams : 0.92;
  const litresPerKg =
    rinses.length > 0
      ? rinses.reduce((sum, row) => sum + toGrams(row.mg ?? 0), 0) / rinses.length / state.produceGrams
      : 0;
  const { estimate, band } = heavySalt({
    leafGrams: state.produceGrams,
    waterFraction,
    saltGrams: state.saltInGrams,
    brineWaterGrams: 0,
    minutes,
    cut: state.formula.heavy?.cut ?? 'leaf',
    rinses: rinses.length,
    litresPerKg,
  });
  return { estimate, least: band.least, most: band.most, rinses: rinses.length, minutes, waterFraction };
}
