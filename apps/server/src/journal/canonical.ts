import canonicalize from 'canonicalize';
import { hash } from 'node:crypto';

/** JSON as RFC 8785 has it: the same value is always the same bytes. */
export function canonicalJson(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new TypeError('what is no JSON has no canonical form');
  return text;
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
  const { previousHash, seq, recordedAt, entry, facts } = link;
  return hash('sha256', `${previousHash}\n${seq}\n${recordedAt.toISOString()}\n${entry}\n${facts}`);
}
