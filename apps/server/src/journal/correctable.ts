import type { EntryKind } from '@clear-tally/contract';
import { kindOf, kindsThat } from './registry.js';

/** Why a kind cannot be corrected, and what to do instead; null: it can. */
export function neverCorrected(name: EntryKind): string | null {
  const { correct } = kindOf(name);
  return typeof correct === 'object' ? correct.never : null;
}

export const ledgerKinds = () => kindsThat(({ correct }) => correct === 'ledger');

/** What they hold is found by what came of a lot. */
export const placingKinds = () => kindsThat(({ places }) => places === true);

/** What they do to the holds of a lot follows from those that stand there. */
export const heedingKinds = () => kindsThat(({ heeds }) => heeds === true);

export const judgedKinds = () => kindsThat(({ judged }) => judged === true);
