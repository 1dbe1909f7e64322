import { asc, gt } from 'drizzle-orm';
import type { Database } from '../db/database.js';
import { journal } from '../db/schema/index.js';
import { CHAIN_START, chainHash } from './canonical.js';

/** Reads the whole journal and recomputes its chain. `brokenAt` is the first entry that does not fit, or null. */
export async function verifyChain(db: Database): Promise<{ entries: number; brokenAt: number | null }> {
  let previousHash = CHAIN_START;
  let seq = 0;
  for (;;) {
    const page = await db.select().from(journal).where(gt(journal.seq, seq)).orderBy(asc(journal.seq)).limit(1000);
    if (page.length === 0) return { entries: seq, brokenAt: null };
    for (const row of page) {
      if (row.seq !== seq + 1 || row.previousHash !== previousHash || row.hash !== chainHash(row)) return { entries: seq, brokenAt: seq + 1 };
      previousHash = row.hash;
      seq = row.seq;
    }
  }
}
