import type { EntryKind } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';

/**
 * Whether something of this kind is in the book of a lot that happened after this moment, and was not taken back: what
 * it said is how things stand now, whenever this one is entered.
 */
export async function laterSaid(reader: Reader, of: { lotId: string; kind: EntryKind; at: Date }): Promise<boolean> {
  const found = await rows(
    reader,
    sql`
    select 1 from entry_lot e join journal j on j.seq = e.seq
    left join lateral (select seq, "right" from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1) c on true
    where e.lot_id = ${of.lotId} and j.kind = ${of.kind} and j.happened_at > ${of.at.toISOString()} and (c.seq is null or c."right" is not null)
    limit 1`,
  );
  return found.length > 0;
}
