import { DRAINED } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { BEGINS } from './starters.js';
import type { FillRow } from './watchedVessel.js';

/** What the tables say of these fills, whether live or emptied, or of every live one; by room and tag. */
export async function loadFills(reader: Reader, lotIds?: readonly string[]): Promise<FillRow[]> {
  return rows<FillRow>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, l.origin, l.batch_id as "batchId", b.code as "batchCode", v.id as "vesselId", v.tag as "vesselTag", v.shape, coalesce(c.closure, v.closure) as closure, v.room_id as "roomId", rm.usual_celsius as "roomCelsius",
      l.at, l.closed_at is not null as closed, f.data as formula, b.rules, b.seq as "begunSeq", v.brim_ml as "brimMl", coalesce(own.checks, of_batch.checks) as plan, coalesce(own.since, of_batch.since, case when l.origin = 'beforeLedger' then (select min(m.at) from live_movement m where m.to_lot = l.id) end) as "planSince",
      (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind in ('vessel.fill', 'lot.open', 'vessel.split') or m.to_lot = l.id and m.kind like 'finish.%') as "filledMg", fi.what as finish, exists (select 1 from live_movement m where m.from_lot = l.id and m.kind = ${DRAINED}) as drained, (select max(m.at) from live_movement m where m.to_lot = l.id and fi.lot_id is not null) as "mixedAt",
      exists (select 1 from jsonb_array_elements(f.data->'produce') p join material x on x.id = (p->>'materialId')::uuid where x.details->>'group' = 'fruit') as fruit,
      (select array_agg((x.details->>'red')::boolean) from jsonb_array_elements((f.data->'produce') || (f.data->'lines')) p join material x on x.id = (p->>'materialId')::uuid) as reds,
      b.variant, exists (select 1 from live_movement m join lot s on s.id = m.from_lot left join material x on x.id = s.material_id where m.to_lot in (l.id, l.batch_id) and m.kind = 'ingredient.add' and ${BEGINS}) as started,
      case when f.data ? 'windows' then (select max(j.happened_at) from entry_lot e join journal j on j.seq = e.seq where e.lot_id = l.id and j.kind = 'vessel.move') end as "movedAt",
      exists (select 1 from hold h where h.lot_id = l.id and h.rule = 'late' and h.lifted_at is not null and h.anew is not true) as "lateLifted",
      (select max(d.at) from finding d where d.lot_id = l.id and d.finding = 'film' and d.verdict not in ('hold', 'throwOut')) as "filmAt"
    from lot l join vessel v on v.id = l.vessel_id join room rm on rm.id = v.room_id join lot b on b.id = l.batch_id
    left join closing c on c.lot_id = l.id left join finish fi on fi.lot_id = l.id
    left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    left join check_plan own on own.lot_id = l.id left join check_plan of_batch on of_batch.lot_id = l.batch_id
    where ${lotIds ? sql`l.kind = 'fill' and l.id = ${anyOf(lotIds)}` : sql`l.live_vessel is not null`}
    order by rm.position, v.tag`,
  );
}
