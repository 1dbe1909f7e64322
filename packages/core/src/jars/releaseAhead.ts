import { type ReleaseCondition, releaseConditions, type ReleaseInput, type ReleaseKey } from './release.js';

/** What only shows once it is packed, and when. Everything else of a release stands or falls with the vessel. */
const LATER: Readonly<Partial<Record<ReleaseKey, string>>> = {
  equilibrium: 'a day after packing, where its brine is changed or it was mixed',
  closed: 'at packing; bottles that settle, a day later',
  heat: 'where it shall keep ambient: load by load',
  gas: 'a jar opened 7 to 14 days after packing, or kept cold only',
  tally: 'at packing',
  review: 'by a reviewer, when all the rest is met',
};

export type AheadCondition = Pick<ReleaseCondition, 'key' | 'words' | 'now' | 'wayOn'> & {
  readonly state: 'met' | 'open' | 'later';
};

/** The list of a release as a vessel stands before anything is packed: met, open, or seen later. Source: handbook 4.6. */
export function releaseAhead(
  of: Pick<
    ReleaseInput,
    'now' | 'acidLimit' | 'vessels' | 'beforeLedger' | 'holds' | 'salt' | 'restarts' | 'labelLacks'
  >,
): AheadCondition[] {
  const rows = releaseConditions({
    ...of,
    packedAt: of.now,
    brine: 'own',
    readItself: false,
    coolAllowed: false,
    closing: { later: false, done: false },
    storage: 'cold',
    phs: [],
    gas: [],
    heat: { onFile: false, jars: {} },
    tally: { clear: true, unexplainedGrams: 0, toleranceGrams: 0 },
    packedBy: [],
    reviewer: { id: '', isReviewer: true },
    rule: 'second',
    nightsSince: 0,
    excuses: {},
  });
  return rows.map(({ key, words, state, now, wayOn }) => {
    const later = LATER[key];
    if (later !== undefined) return { key, words, state: 'later', now: later, wayOn: null };
    return { key, words, state: state === 'open' ? 'open' : 'met', now, wayOn };
  });
}
