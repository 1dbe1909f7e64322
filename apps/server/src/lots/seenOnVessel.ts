import { againWords, type AskedFinding, findingOf, lookAgainDays, type Verdict } from '@clear-tally/core';

/** Something done to a vessel or looked at, as it was written down. */
export interface Mark {
  readonly key: string;
  readonly what: string;
  readonly words: string | null;
  readonly quiet: boolean;
  readonly figure: number | null;
  readonly says: string | null;
  readonly detail: Record<string, unknown>;
  readonly at: number;
}

/** A finding of "Watch" or "Act" whose second look is still to come. */
export interface SeenOnIt {
  readonly verdict: 'watch' | 'act';
  readonly name: string;
  readonly at: number;
}

export interface FindingRow {
  readonly lotId: string;
  readonly finding: string;
  readonly verdict: Verdict;
  readonly at: Date;
}

/** What is asked of a vessel by what was seen on it in the last two weeks. A finding seen in order ends those before it. */
export function findingsAsk(found: readonly FindingRow[], dayOf: (at: number) => number, now: number): AskedFinding[] {
  return openFindings(found)
    .filter(({ at }) => now - new Date(at).getTime() < FINDING_ASKS_MS)
    .map(({ finding, verdict, at }) => {
      const of = findingOf(finding)!;
      const days = lookAgainDays(finding, verdict);
      const day = dayOf(new Date(at).getTime());
      return { name: of.name, todo: of.todo, day, againDay: finding === 'film' || days === null ? null : day + days };
    });
}

const FINDING_ASKS_MS = 14 * 86_400_000;

/** Of "Watch" and "Act", each kind once, the last; what looks right afterwards closes what was seen before. */
function openFindings(found: readonly FindingRow[]): FindingRow[] {
  const right = found.findLastIndex(({ finding, verdict }) => finding === 'looksRight' && verdict === 'fine');
  const last = new Map(found.slice(right + 1).map((row) => [row.finding, row]));
  return [...last.values()].filter(({ verdict }) => verdict === 'watch' || verdict === 'act');
}

export function seenOnIt(found: readonly FindingRow[], marks: readonly Mark[]): SeenOnIt | null {
  const lookedAgain = (row: FindingRow): boolean =>
    marks.some(
      ({ what, words, at }) =>
        at > new Date(row.at).getTime() &&
        (what === 'todo'
          ? words === againWords(findingOf(row.finding)!.name)
          : row.finding === 'film' && what === 'look' && words === 'where the film was'),
    );
  const open = openFindings(found).filter((row) => !lookedAgain(row));
  const gravest = open.find(({ verdict }) => verdict === 'act') ?? open.at(-1);
  return gravest
    ? {
        verdict: gravest.verdict as 'watch' | 'act',
        name: findingOf(gravest.finding)!.name,
        at: new Date(gravest.at).getTime(),
      }
    : null;
}
