import type { TimersReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

/** Every timer of the house that runs, or has run out and nobody has stopped; those of a batch end with it. */
export async function readTimers(reader: Reader, now: Date): Promise<TimersReply> {
  const found = await rows<
    Omit<TimersReply['timers'][number], 'startedAt' | 'endsAt' | 'minutes'> & { startedAt: Date; minutes: string }
  >(
    reader,
    sql`
    select t.id as "timerId", t.batch_id as "batchId", l.code as "batchCode", coalesce(l.kind = 'fill', false) as finish, t.step, t.words, t.minutes, t.started_at as "startedAt", p.initials as by
    from timer t join person p on p.id = t.by left join lot l on l.id = t.batch_id
    where t.stopped_at is null and (l.id is null or (l.closed_at is null and l.undone_seq is null)) and t.started_at > ${new Date(now.getTime() - 4 * 86_400_000).toISOString()} order by t.started_at + t.minutes * interval '1 minute' limit 40`,
  );
  return {
    now: now.toISOString(),
    timers: found.map((row) => ({
      ...row,
      minutes: Number(row.minutes),
      startedAt: new Date(row.startedAt).toISOString(),
      endsAt: new Date(new Date(row.startedAt).getTime() + Number(row.minutes) * 60_000).toISOString(),
    })),
  };
}
