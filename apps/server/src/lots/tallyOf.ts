import { GOINGS, type Tally, tally } from '@clear-tally/core';
import { eq, or, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { toGrams } from '../db/schema/columns.js';
import { liveMovement } from '../db/schema/ledger.js';
import type { LotRow } from './lots.js';

const isLoss = (sink: string | null): boolean => sink !== null && !(GOINGS as readonly string[]).includes(sink);

/**
 * The tally of a lot from its live movements. An emptied vessel and a packed run are counted; before that
 * the book's own figure stands on hand. What is missing from an emptied vessel may be gas, within its range.
 */
export async function tallyOf(reader: Reader, lot: LotRow): Promise<Tally> {
  const moves = (
    await reader
      .select({
        mg: liveMovement.milligrams,
        toLot: liveMovement.toLot,
        sink: liveMovement.sink,
        kind: liveMovement.kind,
      })
      .from(liveMovement)
      .where(or(eq(liveMovement.toLot, lot.id), eq(liveMovement.fromLot, lot.id)))
  ).map(({ toLot, ...move }) => ({ ...move, into: toLot === lot.id }));
  const [count] = await rows<{ mg: string; byDifference: 'gas' | 'drip' | null; later: string }>(
    reader,
    sql`
    select c.milligrams as mg, c.by_difference as "byDifference",
      coalesce((select sum(case when m.to_lot = ${lot.id} then m.milligrams else -m.milligrams end) from live_movement m where (m.to_lot = ${lot.id} or m.from_lot = ${lot.id}) and m.seq > c.seq), 0) as later
    from lot_count c where c.lot_id = ${lot.id} order by c.seq desc limit 1`,
  );
  const sum = (keep: (row: (typeof moves)[number]) => boolean) =>
    toGrams(moves.filter(keep).reduce((total, row) => total + row.mg, 0));
  // A count stands for its moment; what moved since is added to it.
  const counted = count ? Math.max(0, toGrams(Number(count.mg) + Number(count.later))) : null;
  return tally({
    // A vessel nobody has packed from is a fill still; jars, and what stayed behind when they were filled, close wider.
    stage:
      lot.kind === 'run' || moves.some(({ into, kind }) => !into && kind === 'pack.run') ? 'upToJars' : 'upToFilling',
    inGrams: sum((row) => row.into),
    outGrams: sum((row) => !row.into && !isLoss(row.sink)),
    lossGrams: sum((row) => !row.into && isLoss(row.sink)),
    countedGrams: lot.closedAt ? 0 : counted,
    byDifference: lot.closedAt && lot.kind === 'fill' ? 'gas' : (count?.byDifference ?? undefined),
    movementGrams: moves.map((row) => toGrams(row.mg)),
  });
}
