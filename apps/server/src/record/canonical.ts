import { createHash } from 'node:crypto';

/** JSON with sorted keys and no blanks: the same value is always the same bytes. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((item) => canonicalJson(item ?? null)).join(',')}]`;
  if (value !== null && typeof value === 'object') {
    const pairs = Object.entries(value)
      .filter(([, item]) => item !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1));
    return `{${pairs.map(([key, item]) => `${JSON.stringify(key)}:${canonicalJson(item)}`).join(',')}}`;
  }
  return JSON.stringify(value);
}

export interface ChainLink {
  readonly seq: number;
  readonly previousHash: string;
  readonly recordedAt: Date;
  /** Canonical JSON. */
  readonly entry: string;
  readonly facts: string;
}

/** What stands before the first entry. */
export const CHAIN_START = '0'.repeat(64);

/** SHA-256 of a journal row chained to the one before. */
export function chainHash(link: ChainLink): string {
  return createHash('sha256')
    .update([link.previousHash, link.seq, link.recordedAt.toISOString(), link.entry, link.facts].join('\n'))
    .digest('hex');
}
