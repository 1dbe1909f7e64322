import { accept, type Outcome, refuse } from '../refusal.js';
import type { GoneHow } from '../jars/index.js';

/** How far a recall reaches from its suspect. */
export const RECALL_SCOPES = ['direct', 'descendants', 'shared'] as const;
export type RecallScope = (typeof RECALL_SCOPES)[number];
export const RECALL_SCOPE_WORDS: Readonly<Record<RecallScope, string>> = {
  direct: 'Only what it went into itself',
  descendants: 'Everything made of it',
  shared: 'Everything made of it, and what shares its source',
};

/** What was answered for jars that are not in the house. */
export const ANSWERS = ['destroyed', 'used', 'soldOn', 'notFound'] as const;
export type Answer = (typeof ANSWERS)[number];
export const ANSWER_WORDS: Readonly<Record<Answer, string>> = {
  destroyed: 'destroyed there',
  used: 'used or eaten',
  soldOn: 'sold on, to whom is not known',
  notFound: 'not found',
};

/** Of what is gone, these were seen gone in the house: nobody has to answer for them. */
const SEEN_GONE: ReadonlySet<GoneHow> = new Set<GoneHow>(['opened', 'broken', 'thrownOut', 'levelling']);

/** Jars of a recall that are in one place. */
export interface CratePlace {
  readonly key: string;
  readonly kind: 'house' | 'customer' | 'gone';
  readonly how: GoneHow | null;
  readonly jars: number;
}

export interface CrateRow extends CratePlace {
  readonly accounted: number;
  /** Not accounted for, answered or not. */
  readonly open: number;
  /** Of those open, what nobody has answered for. */
  readonly unanswered: number;
}

/** Only what is destroyed or used is accounted for: what was sold on or not found may still be eaten. */
const ACCOUNTS: ReadonlySet<Answer> = new Set<Answer>(['destroyed', 'used']);

export interface Crate {
  readonly rows: readonly CrateRow[];
  readonly jars: number;
  readonly accounted: number;
  readonly open: number;
}

/**
 * Every jar of a recall by where it is, and how many are accounted for: in the house, seen gone, destroyed or
 * used. What was sold on or not found is answered, and stays open: it is named when the recall is closed. No
 * answer counts for more jars than are there. Source: handbook 5.3 (5).
 */
export function crateOf(
  places: readonly CratePlace[],
  answers: readonly { readonly key: string; readonly count: number; readonly answer: Answer }[],
): Crate {
  const rows = places.map((place): CrateRow => {
    const own = answers.filter(({ key }) => key === place.key);
    const counted = (of: typeof own): number => of.reduce((sum, { count }) => sum + count, 0);
    const itself = place.kind === 'house' || (place.how !== null && SEEN_GONE.has(place.how));
    const accounted = itself
      ? place.jars
      : Math.min(place.jars, counted(own.filter(({ answer }) => ACCOUNTS.has(answer))));
    const unanswered = itself ? 0 : Math.max(0, place.jars - counted(own));
    return { ...place, accounted, open: place.jars - accounted, unanswered };
  });
  const sum = (of: (row: CrateRow) => number): number => rows.reduce((all, row) => all + of(row), 0);
  return { rows, jars: sum(({ jars }) => jars), accounted: sum((row) => row.accounted), open: sum((row) => row.open) };
}

/** Whether an answer can be: no more jars than are still open there. */
export function decideAnswer(row: CrateRow | undefined, count: number): Outcome<void> {
  if (!row || row.kind === 'house')
    return refuse('recall.notThere', 'No jar of this recall is there. Look at the list again.', { field: 'place' });
  if (!(Number.isInteger(count) && count > 0 && count <= row.unanswered))
    return refuse(
      'recall.tooMany',
      `${count} were given; ${row.unanswered} of ${row.jars} jars have no answer yet there. Jars that came back are scanned on Dispatch.`,
      { field: 'count', facts: { open: row.unanswered } },
    );
  return accept(undefined);
}

/** A recall ends when every jar is accounted for, or the rest is named. */
export function decideRecallClose(open: number, restReason: string | null): Outcome<void> {
  if (open === 0 || restReason?.trim()) return accept(undefined);
  return refuse(
    'recall.restOpen',
    `${open === 1 ? 'One jar is' : `${open} jars are`} not accounted for. Write down what became of the rest, as far as anybody knows.`,
    { field: 'restReason', facts: { open } },
  );
}

const DAY = 86_400_000;

/** When the next drill is due: so many a year, counted from the last one or from the day the house began. */
export const nextDrill = (last: number, perYear: number): number => last + Math.round(365 / perYear) * DAY;

/** A notice to a customer, to be read over and changed. Codes are one line each. */
export function noticeWords(of: {
  readonly house: string;
  readonly drill: boolean;
  readonly customer: string;
  readonly what: string;
  readonly reason: string;
  readonly jars: number;
  readonly codes: readonly string[];
  readonly contact: string | null;
}): string {
  const many = of.jars === 1 ? 'one jar' : `${of.jars} jars`;
  return [
    ...(of.drill ? ['THIS IS A DRILL. Nothing is wrong with these jars; please answer as if it were meant.', ''] : []),
    `To ${of.customer}`,
    '',
    `We recall ${of.what}. Reason: ${of.reason}`,
    `By our records you had ${many} of it:`,
    ...of.codes,
    '',
    'Please do not sell, serve or eat them. Put them aside, marked, and tell us how many you have, how many were used or sold, and since when.',
    of.contact ? `Reach us: ${of.contact}` : 'Reach us at the number you know.',
    '',
    of.house,
  ].join('\n');
}
