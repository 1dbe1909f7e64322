import type { BodyOf, Entry, EntryKind } from '@clear-tally/contract';
import type { SQL } from 'drizzle-orm';
import type { Transaction } from '../db/database.js';

/** What is known of an entry being recorded, whatever its kind. */
export interface InHand {
  readonly tx: Transaction;
  readonly entry: Pick<Entry, 'id' | 'kind'>;
  readonly seq: number;
  readonly at: Date;
  /** By the house's own clock. What opens something opens it from here on, whatever moment it is said of. */
  readonly recordedAt: Date;
  readonly isOwner: boolean;
  /** Of an entry that is put right: the correction, under which its rows are written, and what was known of it before. */
  readonly anew?: Anew;
}

export interface Anew {
  readonly entryId: string;
  readonly seq: number;
  /** What the entry decided when it was recorded. */
  readonly facts: Readonly<Record<string, unknown>>;
  /** The lots it made, laid aside until they are written as they should have been. */
  readonly aside: ReadonlyMap<string, { readonly code: string; readonly vesselId: string | null }>;
}

/** Everything a handler may use: the open transaction and the entry. No clock of its own. */
export interface Recording<K extends EntryKind> extends InHand {
  readonly entry: Extract<Entry, { kind: K }>;
  readonly body: BodyOf<K>;
}

export interface HandlerResult {
  /** What the server decided, such as an issued code. */
  readonly facts?: Record<string, unknown>;
  /** Lots whose book carries this entry. */
  readonly lots?: readonly string[];
  /**
   * A statement that writes a row nobody asks for before the entry is written: it goes with the journal's row, in one
   * question. What can wait for nothing else goes this way; it may refer to what is written by then.
   */
  readonly writes?: SQL;
}

/** Reads what it needs, asks core, writes its rows; refuses by throwing `Refused`. */
export type Handler<K extends EntryKind> = (recording: Recording<K>) => Promise<HandlerResult>;
