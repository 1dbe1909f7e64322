import { heavySalt } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import type { BatchState } from '../../lots/batchSalt.js';

/** The estimate of what was really done: salt as weighed, minutes as passed, each rinse with its own water. */
export async function leafEstimate(
  tx: Reader,
  batchId: string,
  state: BatchState,
  at: Date,
): Promise<{ estimate: number; least: number; most: number; rinses: number; minutes: number; waterFraction: number }> {
  const [salted] = await rows<{ at: Date | null }>(
    tx,
    sql`select min(at) as at from live_movement where to_lot = ${batchId} and kind = 'salt.weigh'`,
  );
  const rinses = await rows<{ mg: string; at: Date }>(
    tx,
    sql`select water_milligrams as mg, at from leaf_log where batch_id = ${batchId} and what = 'rinse' order by seq`,
  );
  const [leaf] = await rows<{ water: string | null }>(
    tx,
    sql`
    select sum(m.milligrams * x.water_fraction) as water from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = ${batchId} and m.kind = 'produce.weigh'`,
  );
  const soakedUntil = rinses[0] ? new Date(rinses[0].at) : at;
  const minutes = salted?.at ? Math.max(0, (soakedUntil.getTime() - new Date(salted.at).getTime()) / 60_000) : 0;
  const waterFraction =
    state.produceGrams > 0 ? toGrams(Math.round(Number(leaf?.water ?? 0))) / state.produceGrams : 0.92;
  const litresPerKg =
    rinses.length > 0 ? rinses.reduce((sum, row) => sum + toGrams(row.mg), 0) / rinses.length / state.produceGrams : 0;
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
