import { type SQL, sql } from 'drizzle-orm';

/** Milligrams on hand of a lot by the book: what came in less what went out, as the database keeps it. */
export const onHandMg = (lotId: SQL): SQL =>
  sql`coalesce((select in_milligrams - out_milligrams from lot_balance where lot_id = ${lotId}), 0)`;

/** Milligrams that ever came in. */
export const cameInMg = (lotId: SQL): SQL =>
  sql`coalesce((select in_milligrams from lot_balance where lot_id = ${lotId}), 0)`;
