import type { RecallScope } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import type { LotRow } from './lots.js';
import { uncleanedAfter } from './uncleaned.js';
import { walkForward } from './walk.js';

/**
 * Forward, but only along its own batches: not into what was kept of a vessel for others, and not into vessels of another
 * batch. Ancestry follows time, as everywhere.
 */
const walkDirect = (lotId: string) => sql`
  with recursive walk(lot, at, seq) as (
    select ${lotId}::uuid, '-infinity'::timestamptz, 0::bigint
    union
    select m.to_lot, m.at, m.seq from walk w
    join live_movement m on m.from_lot = w.lot and (m.at, m.seq) >= (w.at, w.seq)
    join lot f on f.id = w.lot join lot t on t.id = m.to_lot
    where not (f.kind = 'fill' and (t.kind = 'preparation' or t.kind = 'fill' and t.batch_id <> f.batch_id))
  )
  select distinct lot as "to" from walk`;

async function madeOf(reader: Reader, lotId: string): Promise<string[]> {
  const steps = await rows<{ to: string | null }>(reader, walkForward(lotId));
  return [lotId, ...steps.flatMap(({ to }) => to ?? [])];
}

/** Supply lots of the same supplier under the same lot code, on whichever day they came: of one material, or of any. */
async function sameLot(reader: Reader, of: LotRow, goods: 'material' | 'any'): Promise<string[]> {
  if (of.kind !== 'supply') return [];
  const same = await rows<{ id: string }>(
    reader,
    sql`select o.id from lot l join lot o on o.kind = 'supply' and o.supplier_id = l.supplier_id and upper(trim(o.supplier_lot_code)) = upper(trim(l.supplier_lot_code))
      where l.id = ${of.id} and o.undone_seq is null and (${goods === 'any'} or o.material_id = l.material_id)`,
  );
  return same.map(({ id }) => id);
}

/** What shares the source of a suspect: its supplier's other goods of that code, its batch, the vessels a run came from. */
async function sourcesOf(reader: Reader, of: LotRow): Promise<string[]> {
  if (of.kind === 'supply') return sameLot(reader, of, 'any');
  const up = await rows<{ id: string }>(
    reader,
    sql`
    with vessels as (
      select l.id, l.batch_id from lot l where l.id = ${of.id} and l.kind <> 'run'
      union select f.id, f.batch_id from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.to_lot = ${of.id}
    ) select id from vessels union select batch_id from vessels where batch_id is not null`,
  );
  return up.map(({ id }) => id);
}

/**
 * Every lot a recall reaches, the suspect itself with it; true where it is in only because a vessel was not cleaned.
 * Source: handbook 5.3.
 */
export async function recallReach(
  reader: Reader,
  of: LotRow,
  how: { readonly scope: RecallScope; readonly carryOver: boolean },
): Promise<Map<string, boolean>> {
  const found = new Map<string, boolean>([[of.id, false]]);
  const add = (ids: readonly string[], carried: boolean): void =>
    ids.forEach((id) => !found.has(id) && found.set(id, carried));
  // To the supplier it is one lot, and what they call back is all of it.
  for (const suspect of new Set([of.id, ...(await sameLot(reader, of, 'material'))])) {
    const reached =
      how.scope === 'direct'
        ? (await rows<{ to: string }>(reader, walkDirect(suspect))).map(({ to }) => to)
        : await madeOf(reader, suspect);
    add([suspect, ...reached], false);
  }
  if (how.scope === 'shared')
    for (const source of await sourcesOf(reader, of)) add(await madeOf(reader, source), false);
  // A vessel that is in already by a late pouring is in from its first day by what was left in it: it is walked anew.
  const walked = new Set<string>();
  for (let more = how.carryOver ? [...found.keys()] : []; more.length > 0;) {
    const fresh: string[] = [];
    for (const { to } of await uncleanedAfter(reader, more)) {
      if (walked.has(to)) continue;
      walked.add(to);
      for (const made of await madeOf(reader, to)) if (!found.has(made)) fresh.push(made);
    }
    add(fresh, true);
    more = fresh;
  }
  return found;
}
