import { sql } from 'drizzle-orm';
import { rows } from '../../db/database.js';
import type { InHand } from '../../journal/handler.js';
import { walkForward } from '../../lots/walk.js';

export const wayOf = (from: string | null, to: string | null): string => `${from} ${to}`;

/**
 * What is held today was taken then: what comes of it only since the correction is held with it. What came of it before
 * was there when the hold was placed, and somebody decided.
 * @param known from which lot something went into which, as it was said before
 */
export async function holdWhatCameOfHeld({ tx, seq, at }: InHand, known: ReadonlySet<string>): Promise<void> {
  const held = await rows<{
    lotId: string;
    code: string;
    holdId: string;
    cause: string;
    reason: string;
    to: string;
    at: Date;
  }>(
    tx,
    sql`
    select distinct on (m.from_lot, m.to_lot, h.entry_id) m.from_lot as "lotId", l.code, h.entry_id as "holdId", coalesce(h.cause_lot, h.lot_id) as cause, h.reason, m.to_lot as "to", m.at
    from live_movement m join hold h on h.lot_id = m.from_lot and h.lifted_at is null join lot l on l.id = m.from_lot
    where m.id >= ${seq * 1000} and m.id < ${(seq + 1) * 1000} and m.to_lot is not null
    order by m.from_lot, m.to_lot, h.entry_id, m.at`,
  );
  for (const { lotId, code, holdId, cause, reason, to, at: since } of held) {
    if (known.has(wayOf(lotId, to))) continue;
    // Only what left it after that came in has any of it.
    const below = await rows<{ to: string | null }>(tx, walkForward(to, { from: new Date(since) }));
    const lots = [...new Set([to, ...below.flatMap((step) => (step.to ? [step.to] : []))])];
    await tx.execute(sql`
      insert into hold (entry_id, lot_id, reason, rule, cause_lot, placed_at)
      select ${holdId}, id, ${`${code}: ${reason}`.slice(0, 300)}, 'upstream', ${cause}, ${at.toISOString()}
      from unnest(${sql.param(lots)}::uuid[]) id where not exists (select 1 from hold o where o.lot_id = id and o.entry_id = ${holdId})`);
  }
}
