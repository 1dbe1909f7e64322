import type { BookLine, EntryChoices, EntryKind, EntryOf } from '@clear-tally/contract';
import type { TrainedTask } from '@clear-tally/core';
import type { Reader } from '../db/database.js';
import type { Handler } from './handler.js';

/** What a line of the book says of an entry. */
export interface Line {
  readonly what: string;
  readonly words: string | null;
  /** As it is written, and struck through when it is put right. */
  readonly figure?: string | null;
  /** Of a reading, for its chart. */
  readonly value?: number | null;
  readonly sample?: BookLine['sample'];
}

/** What a line is written from: the entry, what the server decided, and the codes of the lots it names. */
export interface LineOf<K extends EntryKind> {
  readonly entry: EntryOf<K>;
  readonly facts: Readonly<Record<string, unknown>>;
  readonly code: (id: string) => string;
  /** "target 321 g", where one was decided. */
  readonly target: () => string;
  /** Whose book it is; null: everybody's. */
  readonly lotIds: readonly string[] | null;
}

/**
 * How far an entry reaches when it is put right. `ledger`: mass, salt or lots: what was recorded afterwards of the same
 * lots is written anew with it. `reading`: what was judged by it is judged anew. `meter`: readings of that meter, too.
 * `book`: its own rows, and those that changed them later. Or why it cannot be corrected, and what to do instead.
 */
export type Reach = 'ledger' | 'reading' | 'meter' | 'book' | { readonly never: string };

/** Everything that is known of a kind of entry: from this one description everything else is made. */
export interface Kind<K extends EntryKind = EntryKind> {
  readonly kind: K;
  /** Who may record it, and put it right. An owner may what a maker may; an inspector records nothing. */
  readonly who: 'owner' | 'maker' | 'rules';
  /** Who, where that depends on what is said. */
  readonly whoWords?: string;
  /** What a house may ask a training for, before somebody records it. */
  readonly task?: TrainedTask;
  /** What it is called where nothing more is known of one. */
  readonly words: string;
  /** What happened, for the table of entries. */
  readonly does: string;
  /** The id in its body that it makes, and that stays when it is put right; lots are known by themselves. */
  readonly makes?: string & keyof EntryOf<K>['body'];
  readonly correct: Reach;
  /** Somebody's word on how things stood: it falls when it does not hold any more, and is asked for anew. */
  readonly falls?: true;
  /** It places holds, on what came of a lot. */
  readonly places?: true;
  /** What it does follows from the holds that stand on its lots. */
  readonly heeds?: true;
  /** What it decides follows from readings. */
  readonly judged?: true;
  /** The rules look before it: nothing is taken from a vessel whose deadline has passed unnoticed. */
  readonly rulesBefore?: true;
  /** The rules look behind it: it changes what they go by. */
  readonly rulesBehind?: true;
  /** It asks much of what was recorded before: few of them go together. */
  readonly weighty?: true;
  /** What was seen yesterday may reach lots that came later. */
  readonly reachesLater?: true;
  /** It is a signature: who records it has just proved again who they are. */
  readonly signed?: true;
  /** Of fields that hold a key, what may be chosen when it is put right, in words. */
  readonly choices?: (reader: Reader, body: EntryOf<K>['body']) => Promise<EntryChoices>;
  /** Reads what it needs, asks core, writes its rows; refuses by throwing `Refused`. */
  readonly record: Handler<K>;
  readonly line: (of: LineOf<K>) => Line;
}

/** Describes a kind of entry; the compiler demands every part. */
export const kind = <K extends EntryKind>(name: K, of: Omit<Kind<K>, 'kind'>): Kind<K> => ({ kind: name, ...of });
