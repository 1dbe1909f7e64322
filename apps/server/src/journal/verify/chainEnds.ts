import { desc, inArray } from 'drizzle-orm';
import { createPrivateKey, createPublicKey, generateKeyPairSync, type KeyObject, sign, verify } from 'node:crypto';
import { appendFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Database } from '../../db/database.js';
import { house } from '../../db/schema/house.js';
import { journal } from '../../db/schema/journal.js';
import { canonicalJson } from '../canonical.js';
import type { Fault } from './fault.js';

/** Where the book ended at a moment, signed with the key of the house: whoever changes what lies before it cannot sign anew. */
export const chainEnd = z.strictObject({
  house: z.string(),
  seq: z.int().min(0),
  hash: z.string(),
  at: z.iso.datetime(),
  signature: z.string(),
});

export type ChainEnd = z.infer<typeof chainEnd>;

const DAY = 86_400_000;

/** The ends of the chain, kept outside the database in a folder beside the data; lines are added, never changed. */
export class ChainEnds {
  private readonly key: KeyObject;
  private readonly file: string;

  constructor(folder: string) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.file = join(folder, 'chain-ends.jsonl');
    const keyFile = join(folder, 'house-key.pem');
    if (!existsSync(keyFile))
      writeFileSync(keyFile, generateKeyPairSync('ed25519').privateKey.export({ type: 'pkcs8', format: 'pem' }), {
        mode: 0o600,
        flag: 'wx',
      });
    this.key = createPrivateKey(readFileSync(keyFile, 'utf8'));
  }

  /** All that were written here and are signed with this key, the oldest first. */
  kept(): ChainEnd[] {
    if (!existsSync(this.file)) return [];
    return readFileSync(this.file, 'utf8')
      .split('\n')
      .filter(Boolean)
      .flatMap((line) => {
        const read = chainEnd.safeParse(safeJson(line));
        return read.success && this.isOurs(read.data) ? [read.data] : [];
      });
  }

  newest(): ChainEnd | null {
    return this.kept().reduce<ChainEnd | null>((most, one) => (most && most.seq >= one.seq ? most : one), null);
  }

  isOurs({ signature, ...end }: ChainEnd): boolean {
    return verify(null, Buffer.from(canonicalJson(end)), createPublicKey(this.key), Buffer.from(signature, 'base64'));
  }

  /** Writes down where the book ends now: on every file that leaves the house, once a day, at a clean end. Null for an empty book. */
  async write(db: Database, now: Date): Promise<ChainEnd | null> {
    const end = await this.endOf(db, now);
    const last = this.newest();
    // A book that is shorter than it was is a fault to be found, not a new end.
    if (!end || (last && end.seq <= last.seq)) return end;
    appendFileSync(this.file, `${JSON.stringify(end)}\n`, { mode: 0o600 });
    return end;
  }

  /** Once a day, as often as it is asked. */
  async daily(db: Database, now: Date): Promise<void> {
    const last = this.newest();
    if (!last || now.getTime() - Date.parse(last.at) >= DAY) await this.write(db, now);
  }

  private async endOf(db: Database, now: Date): Promise<ChainEnd | null> {
    const [last] = await db
      .select({ seq: journal.seq, hash: journal.hash })
      .from(journal)
      .orderBy(desc(journal.seq))
      .limit(1);
    if (!last) return null;
    const [of] = await db.select({ name: house.name }).from(house);
    const end = { house: of?.name ?? '', seq: last.seq, hash: last.hash, at: now.toISOString() };
    return { ...end, signature: sign(null, Buffer.from(canonicalJson(end)), this.key).toString('base64') };
  }
}

/** A quick look at the places where ends were written down, without the chain between them. */
export async function endAt(
  db: Database,
  ends: readonly ChainEnd[],
): Promise<{ entries: number; hashes: Map<number, string> }> {
  const [last] = await db.select({ seq: journal.seq }).from(journal).orderBy(desc(journal.seq)).limit(1);
  const places = [...new Set(ends.map(({ seq }) => seq))];
  const found =
    places.length === 0
      ? []
      : await db.select({ seq: journal.seq, hash: journal.hash }).from(journal).where(inArray(journal.seq, places));
  return { entries: last?.seq ?? 0, hashes: new Map(found.map(({ seq, hash }) => [seq, hash])) };
}

/** What the ends say of a book of so many entries with these hashes. */
export function endFaults(
  ends: readonly ChainEnd[],
  chain: { readonly entries: number; readonly hashes: ReadonlyMap<number, string> },
): Fault[] {
  const longest = ends.reduce<ChainEnd | null>((most, one) => (most && most.seq >= one.seq ? most : one), null);
  if (longest && longest.seq > chain.entries) {
    return [
      {
        where: 'chain',
        seq: chain.entries + 1,
        words: `${longest.seq - chain.entries === 1 ? 'An entry is' : `${longest.seq - chain.entries} entries are`} missing at the end: on ${longest.at.slice(0, 10)} the book had ${longest.seq}, now it has ${chain.entries}.`,
      },
    ];
  }
  const changed = ends.find(({ seq, hash }) => chain.hashes.has(seq) && chain.hashes.get(seq) !== hash);
  return changed
    ? [
        {
          where: 'chain',
          seq: changed.seq,
          words: `The whole chain was computed anew: entry ${changed.seq} had another hash on ${changed.at.slice(0, 10)}. Something at or before it was changed.`,
        },
      ]
    : [];
}

function safeJson(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return null;
  }
}
