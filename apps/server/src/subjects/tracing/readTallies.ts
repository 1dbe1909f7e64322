import type { TalliesReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import type { LotRow } from '../../lots/lots.js';
import { talliesOf } from '../../lots/tallyOf.js';

/** So many of the newest candidates are reckoned; a lot is one when it was counted, or emptied with a difference. */
const MOST_RECKONED = 250;
/** No tally asks for less than this, mg. */
const LEAST_MG = 20_000;

/** Lots whose tally does not close, the largest difference first, with the slip that is likely. */
export async function readTallies(reader: Reader): Promise<TalliesReply> {
  const candidates = await rows<Pick<LotRow, 'id' | 'code' | 'kind' | 'name' | 'closedAt'>>(
    reader,
    sql`
    select l.id, l.code, l.kind, l.name, l.closed_at as "closedAt" from lot l join lot_balance b on b.lot_id = l.id
    where l.undone_seq is null and l.metered and (
      exists (select 1 from lot_count c where c.lot_id = l.id)
      or l.closed_at is not null and abs(b.in_milligrams - b.out_milligrams) > ${LEAST_MG})
    order by l.at desc limit ${MOST_RECKONED}`,
  );
  const tallies = await talliesOf(reader, candidates);
  const open = candidates.flatMap(({ id, code, kind, name }): TalliesReply['lots'] => {
    const tally = tallies.get(id)!;
    return tally.clear ? [] : [{ lotId: id, code, kind, name, tally }];
  });
  return {
    lots: open.sort((a, b) => Math.abs(b.tally.unexplainedGrams) - Math.abs(a.tally.unexplainedGrams)),
    looked: candidates.length,
    all: candidates.length < MOST_RECKONED,
  };
}
