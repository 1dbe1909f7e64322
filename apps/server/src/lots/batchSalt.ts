import type { BodyOf } from '@clear-tally/contract';
import { type BatchSalt, saltTarget, shareOf } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { toGrams } from '../db/schema/columns.js';
import { refused } from '../journal/refused.js';
import { loadMade } from './contents.js';
import type { LotRow } from './lots.js';

export interface BatchState extends BatchSalt {
  readonly formula: BodyOf<'formula.save'>;
  readonly brine: { readonly lotId: string; readonly code: string } | null;
  readonly acceptedReason: string | null;
  readonly targetGrams: number;
}

/** What is weighed into a batch so far, and what salt that asks for. */
export async function batchState(tx: Reader, batch: LotRow): Promise<BatchState> {
  const [row] = await rows<{
    data: BodyOf<'formula.save'> | null;
    produce_mg: string | null;
    salt_mg: string | null;
    water_mg: string | null;
    brine_id: string | null;
    brine_code: string | null;
    reason: string | null;
    tolerance: string;
  }>(
    tx,
    sql`
    select f.data, h.salt_tolerance as tolerance, a.reason, b.id as brine_id, b.code as brine_code,
      (select sum(milligrams) from live_movement where to_lot = ${batch.id} and kind = 'produce.weigh') as produce_mg,
      (select sum(milligrams) from live_movement where to_lot in (${batch.id}, b.id) and kind = 'salt.weigh') as salt_mg,
      (select sum(milligrams) from live_movement where to_lot = b.id and kind = 'brine.make') as water_mg
    from house h
    left join formula f on f.formula_id = ${batch.formulaId} and f.version = ${batch.formulaVersion}
    left join lot b on b.batch_id = ${batch.id} and b.form = 'brine'
    left join salt_acceptance a on a.batch_id = ${batch.id} and not exists (
      select 1 from movement m where m.to_lot in (${batch.id}, b.id) and m.kind in ('produce.weigh', 'brine.make', 'brine.join', 'salt.weigh') and m.seq > a.seq)`,
  );
  if (!row?.data)
    throw refused(
      'formula.unknown',
      `${batch.code} is from before these records and has no formula: nothing is weighed into it.`,
    );
  const produceGrams = toGrams(row.produce_mg ?? 0) + (await lateProduceGrams(tx, batch.id, row.data));
  const joined = row.brine_id ? await joinedBrine(tx, row.brine_id) : { waterGrams: 0, saltGrams: 0 };
  const state = {
    formula: row.data,
    // A batch starts only when neither is open.
    basis: row.data.saltBasis!,
    saltFraction: row.data.saltFraction!,
    produceGrams,
    waterGrams: produceGrams * (row.data.waterPerProduce ?? 0),
    brineWaterGrams: toGrams(row.water_mg ?? 0) + joined.waterGrams,
    saltInGrams: toGrams(row.salt_mg ?? 0) + joined.saltGrams,
    tolerance: Number(row.tolerance),
    brine: row.brine_id ? { lotId: row.brine_id, code: row.brine_code! } : null,
    acceptedReason: row.reason,
  };
  return { ...state, targetGrams: saltTarget(state) };
}

/**
 * A vegetable that joined late and is no line of the formula is salted like the rest: the target follows it, and a second
 * dose is weighed. Worked case W7.
 */
async function lateProduceGrams(tx: Reader, batchId: string, formula: BodyOf<'formula.save'>): Promise<number> {
  const known = [...formula.produce, ...formula.lines].map(({ materialId }) => materialId);
  const [late] = await rows<{ mg: string | null }>(
    tx,
    sql`
    select sum(m.milligrams) as mg from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id
    where m.to_lot = ${batchId} and m.kind = 'ingredient.add' and x.kind = 'produce' and x.id not in ${known}`,
  );
  return toGrams(late?.mg ?? 0);
}

/** Water and salt that another batch's left-over brine brought. */
async function joinedBrine(tx: Reader, brineId: string): Promise<{ waterGrams: number; saltGrams: number }> {
  const sources = await rows<{ from: string; mg: string }>(
    tx,
    sql`select from_lot as from, sum(milligrams) as mg from live_movement where to_lot = ${brineId} and kind = 'brine.join' group by 1`,
  );
  let [waterGrams, saltGrams] = [0, 0];
  for (const { from, mg } of sources) {
    const joined = shareOf((await loadMade(tx, [from])).get(from)!, toGrams(mg));
    waterGrams += joined.waterGrams;
    saltGrams += joined.saltGrams;
  }
  return { waterGrams, saltGrams };
}
