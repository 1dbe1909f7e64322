import { type SQL, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { entryJson } from '../db/entryJson.js';
import { BEGINS } from './starters.js';

/**
 * A supply lot was frozen by that moment: it came so, or was frozen in this store; what is thawed was, also where nobody
 * wrote down when. What was said of it later says nothing of then; what was put right says what is right.
 */
const frozenBy = (lot: SQL, at: SQL): SQL => sql`
  (coalesce((select s.door->>'state' = 'frozen' from lot s where s.id = ${lot}), false) or exists (
    select 1 from entry_lot e join journal j on j.seq = e.seq
      left join lateral (
        select true as corrected, c.right from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1
      ) c on true
    where e.lot_id = ${lot} and j.kind = 'supply.state'
      and coalesce((c.right->>'happenedAt')::timestamptz, j.happened_at) <= ${at}
      and case when c.corrected then c.right else ${entryJson(sql`j.entry`)} end->'body'->>'state' in ('frozen', 'thawed')))`;

export async function wasFrozen(reader: Reader, supplyLotId: string, at: Date): Promise<boolean> {
  const [found] = await rows<{ frozen: boolean }>(
    reader,
    sql`select ${frozenBy(sql`${supplyLotId}::uuid`, sql`${at.toISOString()}::timestamptz`)} as frozen`,
  );
  return found!.frozen;
}

/** Produce that was frozen stands in it. */
export async function hasFrozenProduce(reader: Reader, fillLotId: string): Promise<boolean> {
  const [found] = await rows<{ frozen: boolean }>(
    reader,
    sql`
    select exists (
      select 1 from lot l join live_movement m on m.to_lot = l.batch_id and m.kind = 'produce.weigh'
      where l.id = ${fillLotId} and ${frozenBy(sql`m.from_lot`, sql`m.at`)}) as frozen`,
  );
  return found!.frozen;
}

/** Something begins the batch: its formula has a starter, or one is in it already. */
export async function hasStarter(reader: Reader, batchId: string): Promise<boolean> {
  const [found] = await rows<{ started: boolean }>(
    reader,
    sql`
    select exists (
      select 1 from lot b join formula f on f.formula_id = b.formula_id and f.version = b.formula_version,
        jsonb_array_elements(f.data->'lines') p join material x on x.id = (p->>'materialId')::uuid
      where b.id = ${batchId} and x.kind = 'starter'
    ) or exists (
      select 1 from live_movement m join lot s on s.id = m.from_lot left join material x on x.id = s.material_id
      where m.to_lot = ${batchId} and m.kind = 'ingredient.add'
        and ${BEGINS}) as started`,
  );
  return found!.started;
}
