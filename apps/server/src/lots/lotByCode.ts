import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { refused } from '../journal/refused.js';
import { codeKey, loadLot, type LotRow } from './lots.js';

export async function lotByCode(reader: Reader, code: string): Promise<LotRow> {
  const [found] = await rows<{ id: string }>(reader, sql`select id from lot where code_key = ${codeKey(code)}`);
  if (!found) throw refused('code.unknown', `No lot ${code.toUpperCase()} is in this book.`, { field: 'code' });
  return loadLot(reader, found.id, 'code');
}
