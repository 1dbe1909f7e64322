import type { BodyOf } from '@clear-tally/contract';
import { type BatchSalt, saltTarget, shareOf } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
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

type SaltedBatch = Pick<LotRow, 'id' | 'code' | 'formulaId' | 'formulaVersion'>;

interface WeighedRow {
  readonly id: string;
  readonly data: BodyOf<'formula.save'> | null;
  readonly produceMg: string | null;
  readonly saltMg: string | null;
  readonly waterMg: string | null;
  readonly brineId: string | null;
  readonly brineCode: string | null;
  readonly reason: string | null;
  readonly tolerance: string;
}

/** What is weighed into a batch so far, and what salt that asks for. @throws {Refused} it has no formula */
export async function batchState(tx: Reader, batch: SaltedBatch): Promise<BatchState> {
  const state = (await batchStates(tx, [batch])).get(batch.id);
  if (!state)
    throw refused(
      'formula.unknown',
      `${batch.code} is from before these records and has no formula: nothing is weighed into it.`,
    );
  return state;
}

/** The same for many; a batch without a formula has none. */
export async function batchStates(tx: Reader, batches: readonly SaltedBatch[]): Promise<Map<string, BatchState>> {
  const ids = batches.map(({ id }) => id);
  if (ids.length === 0) return new Map();
  const weighed = await rows<WeighedRow>(
    tx,
    sql`
    select l.id, f.data, h.salt_tolerance as tolerance, a.reason, b.id as "brineId", b.code as "brineCode",
      (select sum(milligrams) from live_movement where to_lot = l.id and kind = 'produce.weigh') as "produceMg",
      (select sum(milligrams) from live_movement where to_lot in (l.id, b.id) and kind = 'salt.weigh') as "saltMg",
      (select sum(milligrams) from live_movement where to_lot = b.id and kind = 'brine.make') as "waterMg"
    from lot l cross join house h
    left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    left join lot b on b.batch_id = l.id and b.form = 'brine'
    left join lateral (
      select t.reason from salt_acceptance t where t.batch_id = l.id and not exists (
        select 1 from movement m where m.to_lot in (l.id, b.id) and m.kind in ('produce.weigh', 'brine.make', 'brine.join', 'salt.weigh') and m.seq > t.seq)
      order by t.seq desc limit 1) a on true
    where l.id = ${anyOf(ids)}`,
  );
  const late = await lateProduce(tx, ids);
  const joined = await joinedBrines(
    tx,
    weighed.flatMap(({ brineId }) => brineId ?? []),
  );
  return new Map(
    weighed.flatMap((row): [string, BatchState][] => {
      const { id, data } = row;
      if (!data) return [];
      const known = new Set([...data.produce, ...data.lines].map(({ materialId }) => materialId));
      const lateGrams = (late.get(id) ?? [])
        .filter(({ materialId }) => !known.has(materialId))
        .reduce((sum, { mg }) => sum + toGrams(mg), 0);
      return [[id, stateOf({ ...row, data }, lateGrams, joined.get(row.brineId ?? '') ?? NO_BRINE)]];
    }),
  );
}

const NO_BRINE = { waterGrams: 0, saltGrams: 0 };

function stateOf(
  row: WeighedRow & { readonly data: BodyOf<'formula.save'> },
  lateGrams: number,
  joined: typeof NO_BRINE,
): BatchState {
  const { data, brineId } = row;
  const produceGrams = toGrams(row.produceMg ?? 0) + lateGrams;
  const state = {
    formula: data,
    // A batch starts only when neither is open.
    basis: data.saltBasis!,
    saltFraction: data.saltFraction!,
    produceGrams,
    waterGrams: produceGrams * (data.waterPerProduce ?? 0),
    brineWaterGrams: toGrams(row.waterMg ?? 0) + joined.waterGrams,
    saltInGrams: toGrams(row.saltMg ?? 0) + joined.saltGrams,
    tolerance: Number(row.tolerance),
    brine: brineId ? { lotId: brineId, code: row.brineCode! } : null,
    acceptedReason: row.reason,
  };
  return { ...state, targetGrams: saltTarget(state) };
}

/**
 * A vegetable that joined late and is no line of the formula is salted like the rest: the target follows it, and a second
 * dose is weighed. Worked case W7. Here all that joined late; which of it the formula names is for the caller.
 */
async function lateProduce(tx: Reader, batchIds: readonly string[]) {
  const found = await rows<{ batchId: string; materialId: string; mg: string }>(
    tx,
    sql`
    select m.to_lot as "batchId", x.id as "materialId", sum(m.milligrams) as mg from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id
    where m.to_lot = ${anyOf(batchIds)} and m.kind = 'ingredient.add' and x.kind = 'produce' group by 1, 2`,
  );
  return groupBy(found, ({ batchId }) => batchId);
}

/** Water and salt that other batches' left-over brine brought to each of these brines. */
async function joinedBrines(tx: Reader, brineIds: readonly string[]): Promise<Map<string, typeof NO_BRINE>> {
  if (brineIds.length === 0) return new Map();
  const sources = await rows<{ to: string; from: string; mg: string }>(
    tx,
    sql`select to_lot as to, from_lot as from, sum(milligrams) as mg from live_movement where to_lot = ${anyOf(brineIds)} and kind = 'brine.join' group by 1, 2`,
  );
  const made = await loadMade(tx, [...new Set(sources.map(({ from }) => from))]);
  const joined = new Map<string, typeof NO_BRINE>();
  for (const { to, from, mg } of sources) {
    const share = shareOf(made.get(from)!, toGrams(mg));
    const before = joined.get(to) ?? NO_BRINE;
    joined.set(to, {
      waterGrams: before.waterGrams + share.waterGrams,
      saltGrams: before.saltGrams + share.saltGrams,
    });
  }
  return joined;
}
