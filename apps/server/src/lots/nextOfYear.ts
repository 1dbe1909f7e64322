import { isoDay } from '@clear-tally/core';
import { like, max } from 'drizzle-orm';
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Reader } from '../db/database.js';
import { loadHouse } from './house.js';

/**
 * The next code of a year, such as `K26-0003`: letters, the year as it is where the house stands, and a number in it.
 * @param figures of the number
 */
export async function nextOfYear(
  tx: Reader,
  table: PgTable & { code: AnyPgColumn<{ data: string }> },
  letters: string,
  at: Date,
  figures = 4,
): Promise<string> {
  const { timeZone } = await loadHouse(tx);
  const head = `${letters}${isoDay(at.getTime(), timeZone).slice(2, 4)}-`;
  const [row] = await tx
    .select({ last: max(table.code) })
    .from(table as PgTable)
    .where(like(table.code, `${head}%`));
  return `${head}${String(Number(row?.last?.slice(head.length) ?? 0) + 1).padStart(figures, '0')}`;
}
