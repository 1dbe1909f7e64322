import { houseFile } from '@clear-tally/contract';
import { createHash } from 'node:crypto';
import type { Database } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { photo } from '../../db/schema/stores.js';
import { canonicalJson, CHAIN_START, chainHash } from '../canonical.js';
import { recordAnew } from '../verify/replay.js';

const TOGETHER = 50;

/**
 * Takes a whole house in from its file, entry by entry as each was recorded then, into a house where nothing was ever
 * recorded. The chain of the file is looked at first, and the chain that comes out is the same; `look` has the database
 * count anew what its tables hold, now and then.
 * @throws {Error} no house file, a broken chain, a photo that is not what its entry names, a house with entries
 */
export async function takeHouseIn(
  into: Database,
  text: string,
  onProgress?: (entries: number) => void,
  look?: () => Promise<unknown>,
): Promise<{ house: string; entries: number }> {
  const read = houseFile.safeParse(parsed(text));
  if (!read.success) {
    const [first] = read.error.issues;
    throw new Error(`This is no file of a house: ${first!.path.join('.')}: ${first!.message}.`);
  }
  const { house, photos, entries } = read.data;
  const [already] = await into.select({ seq: journal.seq }).from(journal).limit(1);
  if (already) throw new Error('This house has entries. A file comes into one where nothing was ever recorded.');
  const rows = chained(entries);
  for (const { id, type, at, base64 } of photos) {
    const bytes = Buffer.from(base64, 'base64');
    if (createHash('sha256').update(bytes).digest('hex') !== id)
      throw new Error(`Photo ${id.slice(0, 12)} … is not the one that was taken.`);
    await into.insert(photo).values({ id, type, at: new Date(at), bytes });
  }
  const record = recordAnew(into, look);
  for (let from = 0; from < rows.length; from += TOGETHER) {
    await record(rows.slice(from, from + TOGETHER));
    onProgress?.(Math.min(rows.length, from + TOGETHER));
  }
  return { house, entries: rows.length };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

interface Row {
  readonly seq: number;
  readonly by: string;
  readonly recordedAt: Date;
  readonly entry: string;
}

/** Every entry with the one before: none is missing, none was changed since it was recorded. */
function chained(
  entries: readonly { seq: number; recordedAt: string; by: string; entry: object; facts: object; hash: string }[],
): Row[] {
  let previousHash = CHAIN_START;
  return entries.map((one, index) => {
    if (one.seq !== index + 1) throw new Error(`Entry ${index + 1} is missing from the file.`);
    const row = { seq: one.seq, by: one.by, recordedAt: new Date(one.recordedAt), entry: canonicalJson(one.entry) };
    if (chainHash({ ...row, previousHash, facts: canonicalJson(one.facts) }) !== one.hash)
      throw new Error(`Entry ${one.seq} was changed after it was recorded: what stands there does not give its hash.`);
    previousHash = one.hash;
    return row;
  });
}
