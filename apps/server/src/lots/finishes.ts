import { FEEDING, type Finish, lowAcid } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { drying, finish } from '../db/schema/finishing.js';

export interface FinishOf {
  readonly what: Finish;
  readonly at: Date;
}

/** What is done with a lot to finish it; null: it is no finish, but a vessel. */
export async function finishOf(reader: Reader, lotId: string): Promise<FinishOf | null> {
  const [found] = await reader.select({ what: finish.what, at: finish.at }).from(finish).where(eq(finish.lotId, lotId));
  return found ?? null;
}

/** Of each of these vessels and finishes (`root`): itself, and all the vessels it came out of. */
const upstream = (lotIds: readonly string[]) => sql`
  with recursive up as (
    select id as root, id from lot where id = ${anyOf(lotIds)}
    union select up.root, m.from_lot from up join live_movement m on m.to_lot = up.id join lot f on f.id = m.from_lot and f.kind = 'fill'
  )`;

/** Names of what was put in after fermentation and feeds it again. */
export async function restartsIn(reader: Reader, lotIds: readonly string[]): Promise<string[]> {
  return [...new Set([...(await restartsOf(reader, lotIds)).values()].flat())].sort();
}

/** The same of each lot; one without any has no line. */
export async function restartsOf(reader: Reader, lotIds: readonly string[]): Promise<Map<string, string[]>> {
  if (lotIds.length === 0) return new Map();
  const found = await rows<{ root: string; name: string }>(
    reader,
    sql`${upstream(lotIds)} select distinct up.root, s.name from up join live_movement m on m.to_lot = up.id and m.kind = ${FEEDING} join lot s on s.id = m.from_lot order by 2`,
  );
  const of = groupBy(found, ({ root }) => root);
  return new Map([...of].map(([root, lines]) => [root, lines.map(({ name }) => name)]));
}

/** Names of what was put in after fermentation and brings no acid of its own. */
export async function lowAcidIn(reader: Reader, lotIds: readonly string[]): Promise<string[]> {
  if (lotIds.length === 0) return [];
  const found = await rows<{ name: string; kind: string | null; group: string | null; form: string | null }>(
    reader,
    sql`${upstream(lotIds)} select distinct s.name, x.kind, x.details->>'group' as "group", s.form
      from up join finish i on i.lot_id = up.id join live_movement m on m.to_lot = up.id
      join lot s on s.id = m.from_lot and s.kind in ('supply', 'preparation') left join material x on x.id = s.material_id
      order by s.name`,
  );
  return [...new Set(found.filter(lowAcid).map(({ name }) => name))];
}

/** Codes of what was dried and whose water activity nobody knows. */
export async function driedUnmeasured(reader: Reader, lotIds: readonly string[]): Promise<string[]> {
  if (lotIds.length === 0) return [];
  const found = await rows<{ code: string }>(
    reader,
    sql`${upstream(lotIds)} select distinct l.code from up join finish f on f.lot_id = up.id and f.what = 'drying' join lot l on l.id = up.id
      where (select d.water_activity from drying d where d.lot_id = up.id order by d.seq desc limit 1) is null order by 1`,
  );
  return found.map(({ code }) => code);
}

/** Vessels a finish came out of, and when each was taken into it. */
export async function takenFrom(
  reader: Reader,
  finishLotIds: readonly string[],
): Promise<{ lotId: string; finishLotId: string; at: Date }[]> {
  if (finishLotIds.length === 0) return [];
  const found = await rows<{ lotId: string; finishLotId: string; at: Date }>(
    reader,
    sql`select distinct on (m.from_lot, m.to_lot) m.from_lot as "lotId", m.to_lot as "finishLotId", m.at from live_movement m
      join lot f on f.id = m.from_lot and f.kind = 'fill' join finish i on i.lot_id = m.to_lot
      where m.to_lot = ${anyOf(finishLotIds)} and m.seq = i.seq order by m.from_lot, m.to_lot, m.at`,
  );
  return found.map((row) => ({ ...row, at: new Date(row.at) }));
}

/** The last drying of a lot. */
export async function driedOf(reader: Reader, lotId: string): Promise<typeof drying.$inferSelect | null> {
  const found = await reader.select().from(drying).where(eq(drying.lotId, lotId)).orderBy(drying.seq);
  return found.at(-1) ?? null;
}
