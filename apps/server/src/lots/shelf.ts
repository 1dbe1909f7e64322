import type { ShelfReply } from '@clear-tally/contract';
import { dayNumber, type PhStanding } from '@clear-tally/core';
import { asc, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { toGrams } from '../db/schema/columns.js';
import { room } from '../db/schema/house.js';
import { loadHouse } from './house.js';
import { onHandMg } from './lotFigures.js';
import type { Watched } from './watchedVessel.js';

interface ShelfRow {
  lotId: string;
  code: string;
  name: string;
  vesselTag: string;
  shape: ShelfReply['vessels'][number]['shape'];
  closure: ShelfReply['vessels'][number]['closure'];
  roomId: string;
  brimMl: number;
  maxFill: string;
  mg: string;
  at: Date;
  readings: number;
  hold: string | null;
  batchCode: string;
  formulaNumber: number | null;
}

/** The row of live vessels: what stands in each, since when, its last pH, its hold. Of vessels that are loaded already. */
export async function shelfOf(
  reader: Reader,
  now: Date,
  standing: readonly Watched[],
): Promise<Omit<ShelfReply, 'faults'>> {
  const { timeZone } = await loadHouse(reader);
  const found = await rows<ShelfRow>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, v.tag as "vesselTag", v.shape, v.closure, v.room_id as "roomId", v.brim_ml as "brimMl", v.max_fill as "maxFill", l.at,
      b.code as "batchCode", f.number as "formulaNumber", h.reason as hold,
      (select count(*)::int from reading r where r.lot_id = l.id and r.kind = 'ph' and r.entry_id = r.root_entry_id) as readings,
      ${onHandMg(sql`l.id`)} as mg
    from lot l join vessel v on v.id = l.vessel_id join room rm on rm.id = v.room_id
    join lot b on b.id = l.batch_id
    left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    left join open_hold h on h.lot_id = l.id
    where l.live_vessel is not null
    order by rm.position, l.at desc, v.tag`,
  );
  const warmth = await rows<{ roomId: string; celsius: string }>(
    reader,
    sql`
    select distinct on (v.room_id) v.room_id as "roomId", r.value as celsius
    from live_reading r join lot l on l.id = r.lot_id join vessel v on v.id = l.vessel_id
    where l.live_vessel is not null and r.kind = 'temperature' and r.at > ${new Date(now.getTime() - 3 * 86_400_000).toISOString()}
    order by v.room_id, r.at desc, r.seq desc`,
  );
  const celsius = new Map(warmth.map((row) => [row.roomId, Number(row.celsius)]));
  const watched = new Map(standing.map((vessel) => [vessel.lotId, vessel]));
  const rooms = await reader.select().from(room).orderBy(asc(room.position));
  return {
    now: now.toISOString(),
    rooms: rooms.map((row) => ({ id: row.id, name: row.name, celsius: celsius.get(row.id) ?? null })),
    // What cannot be read is a fault beside them.
    vessels: found
      .filter((row) => watched.has(row.lotId))
      .map(({ mg, at, maxFill, ...row }) => {
        const { due, standing, seen } = watched.get(row.lotId)!;
        return {
          ...row,
          maxFill: Number(maxFill),
          fillGrams: toGrams(mg),
          filledAt: new Date(at).toISOString(),
          ...phShown(standing),
          seen: seen && { verdict: seen.verdict, name: seen.name },
          due: due.filter(({ state }) => state === 'due' || state === 'late').length,
          late: due.filter(({ state }) => state === 'late').length,
          day: dayNumber({ filledAt: new Date(at).getTime(), at: now.getTime(), timeZone }),
        };
      }),
  };
}

/** A vessel's pH in a line: the one that counts, or, where none does, the last that was read, said to be so. */
export function phShown(
  standing: PhStanding | undefined,
): Pick<ShelfReply['vessels'][number], 'lastPh' | 'lastPhAt' | 'phCounts'> {
  const point = standing?.counting ?? standing?.last ?? null;
  return {
    lastPh: point?.ph ?? null,
    lastPhAt: point ? new Date(point.at).toISOString() : null,
    phCounts: !!standing?.counting,
  };
}
