import { brineCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { firstFree, type LotRow } from '../../lots/lots.js';

/** The next preparation code of a batch: -b1, -b2 ... */
export async function nextPreparationCode(tx: Transaction, batch: LotRow): Promise<string> {
  const [row] = await rows<{ n: number }>(
    tx,
    sql`select count(*)::int as n from lot where batch_id = ${batch.id} and kind = 'preparation'`,
  );
  return firstFree(tx, (number) => brineCode(batch.code, number), (row?.n ?? 0) + 1);
}
