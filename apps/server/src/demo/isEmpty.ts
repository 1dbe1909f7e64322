import type { Database } from '../db/database.js';
import { journal } from '../db/schema/journal.js';

/** Whether nothing has ever been recorded here. */
export async function isEmpty(db: Database): Promise<boolean> {
  return (await db.select({ seq: journal.seq }).from(journal).limit(1)).length === 0;
}
