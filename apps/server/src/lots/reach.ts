import type { ReachReply } from '@clear-tally/contract';
import { decideReach, lastInOrder, type Taken } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { toGrams } from '../db/schema/columns.js';
import { hold } from '../db/schema/ledger.js';
import { placeOf } from '../journal/asItHappened.js';
import type { InHand } from '../journal/handler.js';
import { must } from '../journal/refused.js';
import type { LotRow } from './lots.js';
import { acidLimitsOf } from './acidLimits.js';
import { phPoints } from './readings.js';
import { walkForward } from './walk.js';

interface Step {
  id: string;
  from: string;
  to: string;
  mg: string;
}

interface TakenRow {
  lotId: string;
  code: string;
  kind: string;
  name: string;
  vesselTag: string | null;
  hold: string | null;
  jars: number | null;
  closed: boolean;
  firstAt: Date;
}

/**
 * What was taken from a vessel and what became of it: sisters it was poured into, vessels split off, kept brine, jars.
 * Each with the mass that came in along this way, and whether it left after the vessel's last reading in order. Of a
 * packing run: the runs that were packed from the same vessels. Source: handbook 3.4.
 */
export async function reachOf(reader: Reader, of: LotRow): Promise<ReachReply> {
  if (of.kind === 'run') return { since: null, taken: await siblings(reader, of) };
  const limit = (await acidLimitsOf(reader, [of.id])).get(of.id)!;
  const before = placeOf(reader);
  const since = lastInOrder((await phPoints(reader, [of.id])).get(of.id) ?? [], limit);
  const all = await rows<Step>(reader, walkForward(of.id, { before }));
  const later = new Set(
    (since === null ? all : await rows<Step>(reader, walkForward(of.id, { from: new Date(since.at), before }))).map(
      ({ to }) => to,
    ),
  );
  const grams = new Map<string, number>();
  for (const { to, mg } of all) grams.set(to, (grams.get(to) ?? 0) + toGrams(mg));
  grams.delete(of.id);
  const found = await described(reader, [...grams.keys()], of.id);
  return {
    since: since && { at: new Date(since.at).toISOString(), ph: since.ph },
    taken: found.map(({ firstAt, ...row }) => ({
      ...row,
      at: new Date(firstAt).toISOString(),
      grams: grams.get(row.lotId)!,
      since: later.has(row.lotId),
    })),
  };
}

async function siblings(reader: Reader, run: LotRow): Promise<ReachReply['taken']> {
  const found = await rows<{ id: string; mg: string }>(
    reader,
    sql`
    select m.to_lot as id, sum(m.milligrams) as mg from live_movement m join lot l on l.id = m.to_lot and l.kind = 'run'
    where m.from_lot in (select from_lot from live_movement where to_lot = ${run.id} and from_lot is not null) and m.to_lot <> ${run.id} group by 1`,
  );
  const grams = new Map(found.map(({ id, mg }) => [id, toGrams(mg)]));
  return (await described(reader, [...grams.keys()], run.id)).map(({ firstAt, ...row }) => ({
    ...row,
    at: new Date(firstAt).toISOString(),
    grams: grams.get(row.lotId)!,
    since: true,
  }));
}

async function described(reader: Reader, lotIds: readonly string[], from: string): Promise<TakenRow[]> {
  if (lotIds.length === 0) return [];
  return rows<TakenRow>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.kind, l.name, v.tag as "vesselTag", h.reason as hold, l.closed_at is not null as closed,
      (select sum(last_serial - first_serial + 1)::int from jar_range where run_lot_id = l.id) as jars,
      coalesce((select min(m.at) from live_movement m where m.to_lot = l.id and m.from_lot = ${from}), l.at) as "firstAt"
    from lot l left join vessel v on v.id = l.vessel_id left join open_hold h on h.lot_id = l.id
    where l.id in ${[...lotIds]} and (l.closed_at is null or l.kind = 'run') order by "firstAt", l.seq`,
  );
}

/**
 * Holds with a vessel what was taken from it, in the same entry. `chosen` null is the default: everything since its last
 * reading in order. What is held already stays held by its own reason too.
 */
export async function holdReach(
  recording: InHand,
  of: LotRow,
  input: { readonly reason: string; readonly chosen: readonly string[] | null; readonly leftOutReason: string | null },
): Promise<{ facts: Record<string, unknown>; lots: string[] }> {
  const { tx, entry, at } = recording;
  const { taken } = await reachOf(tx, of);
  if (taken.length === 0) return { facts: {}, lots: [] };
  const asked: Taken[] = taken.map(({ lotId, code, since }) => ({ lotId, code, since }));
  const reach = must(
    decideReach({ taken: asked, chosen: input.chosen, reason: input.leftOutReason, isReviewer: recording.isOwner }),
  );
  const codes = (ids: readonly string[]): string[] =>
    taken.filter(({ lotId }) => ids.includes(lotId)).map(({ code }) => code);
  if (reach.hold.length > 0)
    await tx
      .insert(hold)
      .values(
        reach.hold.map((lotId) => ({
          entryId: entry.id,
          lotId,
          reason: `${of.code}: ${input.reason}`,
          rule: 'upstream' as const,
          causeLot: of.id,
          placedAt: at,
        })),
      )
      .onConflictDoNothing();
  return {
    facts: {
      ...(reach.hold.length > 0 ? { heldToo: codes(reach.hold) } : {}),
      ...(reach.leftOut.length > 0 ? { leftOut: codes(reach.leftOut), leftOutReason: input.leftOutReason } : {}),
    },
    lots: [...reach.hold],
  };
}
