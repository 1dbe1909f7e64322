import { GOINGS, type Tally, tally } from '@clear-tally/core';
import { or, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { toGrams } from '../db/schema/columns.js';
import { liveMovement } from '../db/schema/ledger.js';
import type { LotRow } from './lots.js';

type TalliedLot = Pick<LotRow, 'id' | 'kind' | 'closedAt'>;

/** What went into a lot, or out of it, mg. */
interface Move {
  readonly lotId: string;
  readonly into: boolean;
  readonly mg: number;
  readonly sink: string | null;
  readonly kind: string;
}

/** What was counted last of a lot, mg, and what moved since. */
interface Counted {
  readonly lotId: string;
  readonly mg: string;
  readonly byDifference: 'gas' | 'drip' | null;
  readonly later: string;
}

const isLoss = (sink: string | null): boolean => sink !== null && !(GOINGS as readonly string[]).includes(sink);

/**
 * The tally of each of these lots from its live movements. An emptied vessel and a packed run are counted; before that
 * the book's own figure stands on hand. What is missing from an emptied vessel may be gas, within its range.
 */
export async function talliesOf(reader: Reader, lots: readonly TalliedLot[]): Promise<Map<string, Tally>> {
  const ids = lots.map(({ id }) => id);
  if (ids.length === 0) return new Map();
  const moves = groupBy(await movesOf(reader, ids), ({ lotId }) => lotId);
  const counts = await rows<Counted>(
    reader,
    sql`
    select distinct on (c.lot_id) c.lot_id as "lotId", c.milligrams as mg, c.by_difference as "byDifference",
      coalesce((select sum(case when m.to_lot = c.lot_id then m.milligrams else -m.milligrams end) from live_movement m where (m.to_lot = c.lot_id or m.from_lot = c.lot_id) and m.seq > c.seq), 0) as later
    from lot_count c where c.lot_id = ${anyOf(ids)} order by c.lot_id, c.seq desc`,
  );
  const counted = new Map(counts.map((row) => [row.lotId, row]));
  return new Map(lots.map((lot) => [lot.id, reckon(lot, moves.get(lot.id) ?? [], counted.get(lot.id))]));
}

export const tallyOf = async (reader: Reader, lot: TalliedLot): Promise<Tally> =>
  (await talliesOf(reader, [lot])).get(lot.id)!;

async function movesOf(reader: Reader, lotIds: readonly string[]): Promise<Move[]> {
  const { toLot, fromLot, milligrams: mg, sink, kind } = liveMovement;
  const found = await reader
    .select({ toLot, fromLot, mg, sink, kind })
    .from(liveMovement)
    .where(or(sql`${toLot} = ${anyOf(lotIds)}`, sql`${fromLot} = ${anyOf(lotIds)}`));
  const asked = new Set(lotIds);
  return found.flatMap(({ toLot: to, fromLot: from, ...row }) => [
    ...(to !== null && asked.has(to) ? [{ ...row, lotId: to, into: true }] : []),
    ...(from !== null && asked.has(from) ? [{ ...row, lotId: from, into: false }] : []),
  ]);
}

function reckon(lot: TalliedLot, moves: readonly Move[], count: Counted | undefined): Tally {
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
