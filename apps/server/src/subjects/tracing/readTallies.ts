import type { TalliesReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { loadLot } from '../../lots/lots.js';
import { tallyOf } from '../../lots/tallyOf.js';

/** So many of the newest candidates are reckoned; a lot is one when it was counted, or emptied with a difference. */
const MOST_RECKONED = 250;
/** No tally asks for less than this, mg. */
const LEAST_MG = 20_000;

/** Lots whose tally does not close, the largest difference first, with the slip that is likely. */
export async function readTallies(reader: Reader): Promise<TalliesReply> {
  const candidates = await rows<{ id: string }>(
    reader,
    sql`
    select l.id from lot l join lot_balance b on b.lot_id = l.id
    where l.undone_seq is null and l.metered and (
      exists (select 1 from lot_count c where c.lot_id = l.id)
      or l.closed_at is not null and abs(b.in_milligrams - b.out_milligrams) > ${LEAST_MG})
    order by l.at desc limit ${MOST_RECKONED}`,
  );
  const open: TalliesReply['lots'] = [];
  for (const { id } of candidates) {
    const lot = await loadLot(reader, id, 'lotId');
    const tally = await tallyOf(reader, lot);
    if (!tally.clear) open.push({ lotId: id, code: lot.code, kind: lot.kind, name: lot.name, tally });
  }
  return {
    lots: open.sort((a, b) => Math.abs(b.tally.unexplainedGrams) - Math.abs(a.tally.unexplainedGrams)),
    looked: candidates.length,
    all: candidates.length < MOST_RECKONED,
  };
}
