import { accept, refuse, type Outcome } from '../refusal.js';

/** Main produce and products that this house's rules do not cover. Source: handbook 6.15. */
export const OUTSIDE_SCOPE = {
  alcohol: 'alcohol',
  vinegar: 'vinegar making',
  soda: 'sodas',
  egg: 'eggs',
  dairy: 'dairy',
  fish: 'fish',
  meat: 'meat',
  mouldedGrain: 'moulded grain',
} as const;
export type OutsideScope = keyof typeof OUTSIDE_SCOPE;

/** What produce can be, for the scope: the two that are covered, then what is not. */
export const PRODUCE_GROUPS = ['vegetable', 'fruit', ...(Object.keys(OUTSIDE_SCOPE) as OutsideScope[])] as const;
export type ProduceGroup = (typeof PRODUCE_GROUPS)[number];

/**
 * Why a formula gets no check plan and no release; null when it is inside. `makes` is what the formula says
 * of itself, `groups` what its main produce is.
 */
export function outsideScope(input: {
  makes?: string | null;
  groups: readonly (string | null | undefined)[];
}): string | null {
  const found = [input.makes, ...input.groups].find(
    (group): group is OutsideScope => group != null && Object.hasOwn(OUTSIDE_SCOPE, group),
  );
  if (!found) return null;
  return `Clear Tally is for vegetables and fruit. This formula’s main business is ${OUTSIDE_SCOPE[found]}, with dangers and limits of its own that are not built in here. It can be kept as a note; it gets no check plan and no release. Ask a qualified person.`;
}

/** A formula outside the scope is noted, not run. */
export function decideScope(input: {
  makes?: string | null;
  groups: readonly (string | null | undefined)[];
}): Outcome<void> {
  const why = outsideScope(input);
  return why === null ? accept(undefined) : refuse('formula.outsideScope', why, { field: 'formulaId' });
}
