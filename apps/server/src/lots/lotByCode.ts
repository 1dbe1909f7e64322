import { eq } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { lot } from '../db/schema/ledger.js';
import { refused } from '../journal/refused.js';
import { codeKey, loadLot, type LotRow } from './lots.js';

export async function lotByCode(reader: Reader, code: string): Promise<LotRow> {
  const [found] = await reader
    .select({ id: lot.id })
    .from(lot)
    .where(eq(lot.codeKey, codeKey(code)));
  if (!found) throw refused('code.unknown', `No lot ${code.toUpperCase()} is in this book.`, { field: 'code' });
  return loadLot(reader, found.id, 'code');
}
