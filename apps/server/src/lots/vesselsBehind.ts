import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { takenFrom } from './finishes.js';
import type { Watched } from './watchedVessel.js';
import { loadPastOf } from './watched.js';

/** A packed run and the moment it was packed. */
interface Packed {
  readonly lotId: string;
  readonly packedAt: Date;
}

/**
 * The vessels and finishes each run was packed from as they stood at packing, and behind each finish the vessels it came
 * out of as they stood when it was begun; each once, by all that is known of them now.
 */
export async function vesselsBehind(reader: Reader, runs: readonly Packed[]): Promise<Map<string, Watched[]>> {
  const packedAt = new Map(runs.map((run) => [run.lotId, run.packedAt]));
  const fills = await rows<{ lotId: string; runLotId: string }>(
    reader,
    sql`select distinct f.id as "lotId", m.to_lot as "runLotId" from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.to_lot = ${anyOf([...packedAt.keys()])}`,
  );
  const found = new Map(runs.map(({ lotId }): [string, Watched[]] => [lotId, []]));
  let asked = fills.map((one) => ({ ...one, at: packedAt.get(one.runLotId)!, evenClosed: true as const }));
  while (asked.length > 0) {
    const seen = await loadPastOf(reader, asked);
    for (const { asked: one, vessel } of seen) found.get(one.runLotId)!.push(vessel);
    const taken = groupBy(
      await takenFrom(
        reader,
        asked.map(({ lotId }) => lotId),
      ),
      ({ finishLotId }) => finishLotId,
    );
    const before = asked.flatMap(({ lotId, runLotId }) =>
      (taken.get(lotId) ?? []).map((one) => ({ ...one, runLotId, evenClosed: true as const })),
    );
    const isNew = (one: (typeof before)[number], place: number): boolean =>
      !found.get(one.runLotId)!.some(({ lotId }) => lotId === one.lotId) &&
      before.findIndex(({ lotId, runLotId }) => lotId === one.lotId && runLotId === one.runLotId) === place;
    asked = before.filter(isNew);
  }
  return found;
}
