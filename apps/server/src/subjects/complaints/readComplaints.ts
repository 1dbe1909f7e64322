import type { ComplaintsReply } from '@clear-tally/contract';
import { jarCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

type Row = Omit<ComplaintsReply['complaints'][number], 'at' | 'jar' | 'closed'> & {
  at: Date;
  serial: number | null;
  closedAt: Date | null;
  closedBy: string | null;
  outcome: NonNullable<ComplaintsReply['complaints'][number]['closed']>['outcome'] | null;
  outcomeWords: string | null;
};

const AGAIN_DAYS = 90;

/** The register of complaints, the open ones first; and runs that were complained of again. */
export async function readComplaints(
  reader: Reader,
  by: { readonly role: string },
  now: Date,
): Promise<ComplaintsReply> {
  const found = await rows<Row>(
    reader,
    sql`
    select c.id as "complaintId", c.code, c.at, p.initials as by, l.code as run, l.id as "runLotId", l.name, c.serial, c.what, c.words, c.photo, c.held, c.no_hold_reason as "noHoldReason",
      exists (select 1 from hold h where h.lot_id = l.id and h.lifted_at is null) as "runHeld", k.words as contact,
      c.closed_at as "closedAt", q.initials as "closedBy", c.outcome, c.outcome_words as "outcomeWords"
    from complaint c join lot l on l.id = c.run_lot_id join person p on p.id = c.by
      left join person q on q.id = c.closed_by left join complaint_contact k on k.complaint_id = c.id
    order by c.closed_at is not null, c.at desc limit 300`,
  );
  const since = now.getTime() - AGAIN_DAYS * 86_400_000;
  const byRun = new Map<string, { run: string; name: string; count: number }>();
  for (const { run, name, at } of found)
    if (new Date(at).getTime() > since) byRun.set(run, { run, name, count: (byRun.get(run)?.count ?? 0) + 1 });
  return {
    complaints: found.map(({ at, serial, closedAt, closedBy, outcome, outcomeWords, ...row }) => ({
      ...row,
      // Who complained is nobody’s business who only looks.
      contact: by.role === 'inspector' ? null : row.contact,
      at: new Date(at).toISOString(),
      jar: serial === null ? null : jarCode(row.run, serial).text,
      closed:
        closedAt && outcome
          ? { at: new Date(closedAt).toISOString(), by: closedBy ?? '', outcome, words: outcomeWords ?? '' }
          : null,
    })),
    again: [...byRun.values()].filter(({ count }) => count > 1).sort((a, b) => b.count - a.count),
  };
}
