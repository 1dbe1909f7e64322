import { ENTRY_KINDS, type EntryKind } from '@clear-tally/contract';
import type { Kind } from './kind.js';

export type Kinds = { readonly [K in EntryKind]: Kind<K> };

let kinds: Kinds | null = null;

/** The subjects tell the write path what kinds of entries there are: it knows none by itself. */
export const tellKinds = (all: Kinds): void => void (kinds = all);

/** The description of a kind. */
export function kindOf<K extends EntryKind>(name: K): Kind<K> {
  if (!kinds) throw new Error('no kinds of entries are known: import the subjects first');
  return kinds[name] as Kind<K>;
}

export const allKinds = (): readonly Kind[] => ENTRY_KINDS.map((name) => kindOf(name) as unknown as Kind);

/** Names of the kinds that something is true of. */
export const kindsThat = (is: (of: Kind) => boolean): readonly EntryKind[] =>
  allKinds()
    .filter(is)
    .map((of) => of.kind);
