import type { BodyOf, Entry, EntryKind } from '@clear-tally/contract';
import { v7 } from 'uuid';

/** Ids in the order they are made. */
export const ids = { next: (): string => v7() };

/** The PIN of everybody in a test house. */
export const PIN = '2468';

/** An entry as a device sends it. */
export const entryOf = <K extends EntryKind>(kind: K, body: BodyOf<K>, by: string, at = new Date()): Entry =>
  ({ id: ids.next(), kind, happenedAt: at.toISOString(), by, device: 'spec', body }) as unknown as Entry;
