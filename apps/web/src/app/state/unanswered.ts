import type { Entry } from '@clear-tally/contract';
import { remember, remembered } from './tablet';

/** Entries that were sent and never answered: they may stand in the book. */
export interface Unanswered {
  readonly person: string;
  readonly form: string;
  /** What they say, whatever ids they gave to new things. */
  readonly says: string;
  readonly entries: readonly Entry[];
  readonly at: number;
}

const KEY = 'ct.unanswered';
/** Later the same words are another event: a second reading of the same pH, a second jar of the same size. */
const STILL_THE_SAME_MS = 20 * 60_000;
const MOST = 40;

const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/**
 * What entries say, whatever ids they gave to what is new: two presses of one form say the same, also when the page was
 * read again between them and has made its ids anew. `made` knows the ids that pages made.
 */
export const saying = (entries: readonly Entry[], made: (id: string) => boolean): string =>
  JSON.stringify(
    entries.map(({ kind, body }) => [kind, body]),
    (_, value: unknown) => (typeof value === 'string' && ID.test(value) && made(value) ? 'new' : value),
  );

const all = (now: number): readonly Unanswered[] =>
  remembered<readonly Unanswered[]>(KEY, []).filter(({ at }) => now - at < STILL_THE_SAME_MS);

/** What this person sent from this form with these words, and got no answer to. */
export function unansweredOf(of: Pick<Unanswered, 'person' | 'form' | 'says'>, now = Date.now()): Unanswered | null {
  return (
    all(now).find(({ person, form, says }) => person === of.person && form === of.form && says === of.says) ?? null
  );
}

export function keepUnanswered(one: Unanswered): void {
  remember(KEY, [...all(one.at).filter(({ entries }) => entries[0]?.id !== one.entries[0]?.id), one].slice(-MOST));
}

/** Answered, well or ill: what is pressed next is new. */
export function answered(entries: readonly Entry[], now = Date.now()): void {
  remember(
    KEY,
    all(now).filter((one) => one.entries[0]?.id !== entries[0]?.id),
  );
}
