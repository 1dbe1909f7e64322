import { brineCode } from '@clear-tally/core';
import { and, count, eq } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { firstFree, type LotRow } from '../../lots/lots.js';

/** The next preparation code of a batch: -b1, -b2 ... */
export async function nextPreparationCode(tx: Transaction, batch: LotRow): Promise<string> {
  const [row] = await tx
    .select({ n: count() })
    .from(lot)
    .where(and(eq(lot.batchId, batch.id), eq(lot.kind, 'preparation')));
  return firstFree(tx, (number) => brineCode(batch.code, number), (row?.n ?? 0) + 1);
}
