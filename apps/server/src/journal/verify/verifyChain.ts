import type { Entry } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Database, rows } from '../../db/database.js';
import { CHAIN_START, chainHash } from '../canonical.js';
import type { Fault } from './fault.js';

/** Lines read at once: few enough that a large house fits, many enough that the way to the database does not count. */
const PAGE = 2000;

/** As it is looked at: moments as milliseconds, a million dates are not made for it. */
interface JournalRow {
  readonly seq: number;
  readonly entryId: string;
  readonly kind: string;
  readonly happenedMs: number;
  readonly recordedMs: number;
  readonly by: string;
  readonly entry: string;
  readonly facts: string;
  readonly previousHash: string;
  readonly hash: string;
}

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
  const pageAfter = (last: number): Promise<JournalRow[]> =>
    rows<JournalRow>(
      db,
      sql`select seq::float8 as seq, entry_id as "entryId", kind, date_part('epoch', happened_at) * 1000 as "happenedMs",
        date_part('epoch', recorded_at) * 1000 as "recordedMs", by, entry, facts, previous_hash as "previousHash", hash
      from journal where seq > ${last} order by journal.seq limit ${PAGE}`,
    );
  // The database fetches the next page while this one is looked at; one that fails says so when its turn comes.
  for (let next = pageAfter(0); ;) {
    const page = await next;
    if (page.length === 0) return { entries: seq, brokenAt: null, fault: null, hashes };
    next = pageAfter(page.at(-1)!.seq);
    next.catch(() => undefined);
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
  if (row.hash !== chainHash({ ...row, recordedAt: new Date(row.recordedMs) }))
    return `Entry ${row.seq}, ${row.kind}, was changed after it was recorded: what stands there does not give its hash.`;
  const wrong = columnFault(row);
  return wrong && `Entry ${row.seq} says another ${wrong} in its column than in what was recorded.`;
}

/** Columns beside the entry are not in its hash: each must say what the entry says. */
function columnFault(row: JournalRow): string | null {
  const said = heads(row.entry);
  if (row.entryId !== said.id.toLowerCase()) return 'id';
  if (row.kind !== said.kind) return 'kind';
  if (row.by !== said.by.toLowerCase()) return 'person';
  return row.happenedMs === Date.parse(said.happenedAt) ? null : 'moment';
}

/** What stands behind the body of an entry in canonical JSON. A quote within a text is escaped, so that it ends none. */
const HEADS =
  /"by":"([^"\\]+)","device":"(?:[^"\\]|\\.)*","happenedAt":"([^"\\]+)","id":"([^"\\]+)","kind":"([^"\\]+)"\}$/;

/** Who, when, which and of what kind: read off the end of the line, where a long body need not be parsed for it. */
function heads(text: string): Pick<Entry, 'by' | 'happenedAt' | 'id' | 'kind'> {
  const [, by, happenedAt, id, kind] = HEADS.exec(text.slice(Math.max(0, text.lastIndexOf('"by":"')))) ?? [];
  if (by === undefined || happenedAt === undefined || id === undefined || kind === undefined)
    return JSON.parse(text) as Entry;
  return { by, happenedAt, id, kind: kind as Entry['kind'] };
}
