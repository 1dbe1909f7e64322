import { type SQL, sql } from 'drizzle-orm';

// Ancestry follows time: backward only to movements at or before, forward only to movements at or after. `at` comes as
// milliseconds: a way of a thousand movements is read without a thousand dates. `union` lets a movement in once, and all
// of a row hangs on its movement: nothing comes twice.
// From a lot, or from each row of a question around it.
export const walkBack = (lotId: string | SQL): SQL => sql`
  with recursive walk(lot, at, seq, id, mg, to_lot) as (
    select ${lotId}::uuid, 'infinity'::timestamptz, 9223372036854775807::bigint, null::bigint, null::bigint, null::uuid
    union
    select m.from_lot, m.at, m.seq, m.id, m.milligrams, m.to_lot from walk w join live_movement m on m.to_lot = w.lot and (m.at, m.seq) <= (w.at, w.seq)
    where w.lot is not null and m.from_lot is not null
  )
  select id, lot as "from", to_lot as "to", mg, (date_part('epoch', at) * 1000)::bigint as at from walk where id is not null`;

/** `from`: only what left the lot at that moment or later; `before`: only what was recorded before that entry. */
export const walkForward = (
  lotId: string | SQL,
  { from, before }: { from?: Date; before?: number | null } = {},
): SQL => sql`
  with recursive walk(lot, at, seq, id, mg, from_lot) as (
    select ${lotId}::uuid, ${from?.toISOString() ?? '-infinity'}::timestamptz, 0::bigint, null::bigint, null::bigint, null::uuid
    union
    select m.to_lot, m.at, m.seq, m.id, m.milligrams, m.from_lot from walk w join live_movement m on m.from_lot = w.lot and (m.at, m.seq) >= (w.at, w.seq)
    where w.lot is not null and m.to_lot is not null ${before == null ? sql`` : sql`and m.seq < ${before}`}
  )
  select id, from_lot as "from", lot as "to", mg, (date_part('epoch', at) * 1000)::bigint as at from walk where id is not null`;
