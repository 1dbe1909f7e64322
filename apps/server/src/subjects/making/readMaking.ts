import type { MakingReply, MakingStage } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { onHandMg } from '../../lots/lotFigures.js';

/** Up to this part of the produce sticks to bowls and hands: no more is to come into a vessel. */
export const LEFT_IN_BOWLS = 0.02;

/** How long a filled batch stays in the list to be closed. */
const TO_CLOSE_MS = 86_400_000;

/** Batches that are on the bench: started, and not filled away; of today also what is filled and wants its labels and its close. */
export async function readMaking(reader: Reader, now: Date): Promise<MakingReply> {
  const found = await rows<{
    batchId: string;
    code: string;
    name: string;
    at: Date;
    mg: string;
    produce: string;
    salt: number;
    fills: number;
  }>(
    reader,
    sql`
    select l.id as "batchId", l.code, l.name, l.at,
      ${onHandMg(sql`l.id`)} as mg,
      (select coalesce(sum(milligrams), 0) from live_movement where to_lot = l.id and kind = 'produce.weigh') as produce,
      (select count(*)::int from live_movement m join lot x on x.id = m.to_lot where x.batch_id = l.id and m.kind = 'salt.weigh') as salt,
      (select count(*)::int from lot x where x.batch_id = l.id and x.kind = 'fill') as fills
    from lot l where l.kind = 'batch' and l.origin = 'made' and l.closed_at is null order by l.seq desc limit 60`,
  );
  return {
    batches: found.flatMap((row) => {
      const young = now.getTime() - new Date(row.at).getTime() < TO_CLOSE_MS;
      const waits = stage(row, young);
      return waits === null
        ? []
        : [
            {
              batchId: row.batchId,
              code: row.code,
              name: row.name,
              startedAt: new Date(row.at).toISOString(),
              inBowlsGrams: toGrams(row.mg),
              stage: waits,
            },
          ];
    }),
  };
}

/** What a batch waits for; null: nothing that anybody would do today. */
function stage(
  { produce, salt, fills, mg }: { produce: string; salt: number; fills: number; mg: string },
  young: boolean,
): MakingStage | null {
  if (Number(produce) === 0) return 'forProduce';
  if (salt === 0) return 'forSalt';
  if (fills === 0) return 'toBeFilled';
  if (Number(mg) > Number(produce) * LEFT_IN_BOWLS) return 'partlyFilled';
  return young ? 'toBeClosed' : null;
}
