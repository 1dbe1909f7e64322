import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { takenFrom } from './finishes.js';
import type { Watched } from './watchedVessel.js';
import { loadWatched } from './watched.js';

/**
 * The vessels and finishes a run was packed from as they stood at packing, and behind each finish the vessels it came
 * out of as they stood when it was begun; each once, by all that is known of them now.
 */
export async function vesselsBehind(reader: Reader, runLotId: string, packedAt: Date): Promise<Watched[]> {
  const fills = await rows<{ id: string }>(
    reader,
    sql`select distinct f.id from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.to_lot = ${runLotId}`,
  );
  const found: Watched[] = [];
  let asked: { lotId: string; at: Date }[] = fills.map(({ id }) => ({ lotId: id, at: packedAt }));
  while (asked.length > 0) {
    for (const at of new Set(asked.map((one) => one.at.getTime())))
      found.push(
        ...(await loadWatched(
          reader,
          new Date(at),
          asked.filter((one) => one.at.getTime() === at).map(({ lotId }) => lotId),
          { beforeSeq: Number.MAX_SAFE_INTEGER, evenClosed: true },
        )),
      );
    const before = await takenFrom(
      reader,
      asked.map(({ lotId }) => lotId),
    );
    asked = before.filter(
      ({ lotId }, index) =>
        !found.some((one) => one.lotId === lotId) && before.findIndex((one) => one.lotId === lotId) === index,
    );
  }
  return found;
}
