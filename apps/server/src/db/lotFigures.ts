import { sql, type SQL } from 'drizzle-orm';

/** Milligrams on hand of a lot by the book: what came in less what went out. */
export const onHandMg = (lotId: SQL): SQL => sql`(coalesce((select sum(milligrams) from live_movement where to_lot = ${lotId}), 0) - coalesce((select sum(milligrams) from live_movement where from_lot = ${lotId}), 0))`;
