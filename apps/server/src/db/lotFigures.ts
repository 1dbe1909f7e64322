import { sql, type SQL } from 'drizzle-orm';

/** Milligrams on hand of a lot by the book: what came in less what went out. */
export const onHandMg = (lotId: SQL): SQL => sql`(coalesce((select sum(milligrams) from live_movement where to_lot = ${lotId}), 0) - coalesce((select sum(milligrams) from live_movement where from_lot = ${lotId}), 0))`;

/** The last pH of a lot that counts; null when it was never read. */
export const lastPh = (lotId: SQL): SQL => sql`(select value from live_reading r where r.lot_id = ${lotId} and r.kind = 'ph' order by r.at desc, r.seq desc limit 1)`;
