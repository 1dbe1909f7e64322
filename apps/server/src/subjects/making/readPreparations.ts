import type { MakeReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { onHandMg } from '../../lots/lotFigures.js';

/** Pastes, brines, cultures of a batch: what came of each and where it went. */
export async function readPreparations(reader: Reader, batchId: string): Promise<MakeReply['preparations']> {
  const found = await rows<
    Omit<
      MakeReply['preparations'][number],
      'madeGrams' | 'onHandGrams' | 'pouredGrams' | 'elsewhereGrams' | 'lostGrams' | 'spices'
    > & { made: string; mg: string; poured: string; elsewhere: string; lost: string; spices: string[] | null }
  >(
    reader,
    sql`
    select l.id as "lotId", l.code, l.form, l.name, l.touched, l.generation, l.use_by::text as "useBy", ${onHandMg(sql`l.id`)} as mg,
      coalesce((select sum(milligrams) from live_movement where to_lot = l.id), 0) - coalesce((select sum(milligrams) from live_movement where from_lot = l.id and sink = 'evaporation'), 0) as made,
      coalesce((select sum(m.milligrams) from live_movement m join lot t on t.id = m.to_lot where m.from_lot = l.id and t.kind = 'fill' and m.kind <> 'brine.left'), 0) as poured,
      coalesce((select sum(m.milligrams) from live_movement m join lot t on t.id = m.to_lot where m.from_lot = l.id and (t.kind <> 'fill' or m.kind = 'brine.left')), 0) as elsewhere,
      coalesce((select sum(milligrams) from live_movement where from_lot = l.id and sink is not null and sink <> 'evaporation'), 0) as lost,
      (select array_agg(distinct x.name) from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = l.id and x.kind not in ('water', 'salt')) as spices
    from lot l where l.batch_id = ${batchId} and l.kind = 'preparation' order by l.seq`,
  );
  return found.map(({ made, mg, poured, elsewhere, lost, spices, ...row }) => ({
    ...row,
    madeGrams: toGrams(made),
    onHandGrams: toGrams(mg),
    pouredGrams: toGrams(poured),
    elsewhereGrams: toGrams(elsewhere),
    lostGrams: toGrams(lost),
    spices: spices ?? [],
  }));
}
