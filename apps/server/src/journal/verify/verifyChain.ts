import type { Entry } from '@clear-tally/contract';
import { asc, gt } from 'drizzle-orm';
import type { Database } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { CHAIN_START, chainHash } from '../canonical.js';
import type { Fault } from './fault.js';

type JournalRow = typeof journal.$inferSelect;

export interface Chain {
  readonly entries: number;
  /** The first entry that does not fit, or null. */
  readonly brokenAt: number | null;
  readonly fault: Fault | null;
  /** Hashes at the places asked for; null where the chain does not reach. */
  readonly hashes: ReadonlyMap<number, string>;
}

/**
 * Reads the whole journal and recomputes its chain: hashes, numbers without gaps, and every column against the entry
 * it was taken from. Stops at the first row that is wrong.
 */
export async function verifyChain(
  db: Database,
  options: { at?: readonly number[]; onProgress?: (entries: number) => void } = {},
): Promise<Chain> {
  const wanted = new Set(options.at);
  const hashes = new Map<number, string>();
  let previousHash = CHAIN_START;
  let seq = 0;
  for (;;) {
    const page = await db.select().from(journal).where(gt(journal.seq, seq)).orderBy(asc(journal.seq)).limit(1000);
    if (page.length === 0) return { entries: seq, brokenAt: null, fault: null, hashes };
    for (const row of page) {
      const words = faultOf(row, seq + 1, previousHash);
      if (words) return { entries: seq, brokenAt: seq + 1, fault: { where: 'journal', seq: seq + 1, words }, hashes };
      previousHash = row.hash;
      seq = row.seq;
      if (wanted.has(seq)) hashes.set(seq, row.hash);
    }
    options.onProgress?.(seq);
  }
}

function faultOf(row: JournalRow, expected: number, previousHash: string): string | null {
  if (row.seq !== expected)
    return `Entry ${expected} is missing: after ${expected - 1} the book goes on with ${row.seq}.`;
  if (row.previousHash !== previousHash) return `Entry ${row.seq} is not chained to the one before it.`;
  if (row.hash !== chainHash(row))
    return `Entry ${row.seq}, ${row.kind}, was changed after it was recorded: what stands there does not give its hash.`;
  const wrong = columnFault(row);
  return wrong && `Entry ${row.seq} says another ${wrong} in its column than in what was recorded.`;
}

/** Columns beside the entry are not in its hash: each must say what the entry says. */
function columnFault(row: JournalRow): string | null {
  const entry = JSON.parse(row.entry) as Entry;
  if (row.entryId !== entry.id.toLowerCase()) return 'id';
  if (row.kind !== entry.kind) return 'kind';
  if (row.by !== entry.by.toLowerCase()) return 'person';
  return row.happenedAt.getTime() === Date.parse(entry.happenedAt) ? null : 'moment';
}
