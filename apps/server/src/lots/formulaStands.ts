import { eq } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { formula } from '../db/schema/stores.js';

/** Whether any version of a formula is in the book. */
export async function formulaStands(reader: Reader, formulaId: string): Promise<boolean> {
  const found = await reader
    .select({ version: formula.version })
    .from(formula)
    .where(eq(formula.formulaId, formulaId))
    .limit(1);
  return found.length > 0;
}
