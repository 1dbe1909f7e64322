import { wantsSecondPerson } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import type { LotRow } from './lots.js';
import { IS_HERE } from './whoIsHere.js';

/**
 * Whether a second person's word is wanted on a batch's salt, and whose stands: one given before the last portion does not.
 * Where there is no second person nobody waits for one: the house's rules sign entries and confirm nothing, and whoever
 * has left confirms nothing either.
 */
export async function saltConfirmation(
  reader: Reader,
  batch: LotRow,
  saltedLotId: string,
): Promise<{ wanted: boolean; confirmed: boolean; by: string | null }> {
  const [row] = await rows<{ by: string | null; people: number }>(
    reader,
    sql`
    select (select count(*)::int from person where role <> 'inspector' and ${IS_HERE}) as people,
      (select p.name from salt_confirmation c join person p on p.id = c.by where c.batch_id = ${batch.id}
        and not exists (select 1 from movement m where m.to_lot in (${batch.id}, ${saltedLotId}) and m.kind = 'salt.weigh' and m.seq > c.seq)) as by`,
  );
  return {
    wanted: wantsSecondPerson({ rule: batch.rules?.['secondPerson'], people: row!.people }),
    confirmed: row!.by !== null,
    by: row!.by,
  };
}
