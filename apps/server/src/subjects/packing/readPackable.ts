import type { PackableReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { rows, type Reader } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { cameInMg, onHandMg } from '../../lots/lotFigures.js';
import { standing } from '../../lots/standing.js';

/** Live vessels as the packing place shows them: each packable, or with what stands in the way. */
export async function readPackable(reader: Reader, now: Date): Promise<PackableReply> {
  const masses = await rows<{ lotId: string; mg: string; inMg: string; weightsIn: number }>(
    reader,
    sql`select l.id as "lotId", ${onHandMg(sql`l.id`)} as mg, ${cameInMg(sql`l.id`)} as "inMg", coalesce((select sum((w->>'count')::int)::int from closing c, jsonb_array_elements(c.weight_items) w where c.lot_id = l.id), 0) as "weightsIn" from lot l where l.live_vessel is not null`,
  );
  const onHand = new Map(
    masses.map(({ lotId, mg, inMg, weightsIn }) => [
      lotId,
      { onHandGrams: toGrams(mg), inGrams: toGrams(inMg), weightsIn },
    ]),
  );
  const watched = [...(await standing(reader, now)).vessels].sort(
    (a, b) => Number(b.packable.ok) - Number(a.packable.ok) || a.filledAt - b.filledAt,
  );
  return {
    fills: watched.map((vessel) => ({
      lotId: vessel.lotId,
      code: vessel.code,
      batchCode: vessel.batchCode,
      name: vessel.name,
      vesselTag: vessel.vesselTag,
      day: vessel.day,
      lastPh: vessel.standing.counting?.ph ?? null,
      ...(onHand.get(vessel.lotId) ?? { onHandGrams: 0, inGrams: 0, weightsIn: 0 }),
      refusal: vessel.packable.ok ? null : vessel.packable.refusal.message,
      salt: vessel.salt,
      rules: vessel.rules,
      jarSizes: vessel.formula?.jarSizes.map(({ sizeMl, fillGrams }) => ({ sizeMl, fillGrams })) ?? [
        { sizeMl: 330, fillGrams: 320 },
      ],
    })),
  };
}
