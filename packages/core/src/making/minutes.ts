/** A step begun and finished, by one person. */
export interface WorkMark {
  readonly step: string;
  readonly by: string;
  readonly what: 'begin' | 'finish' | 'skip';
  readonly at: number;
  /** Typed instead of measured. */
  readonly minutes: number | null;
}

/**
 * Labour minutes by step: of every person from their begin to the finish, whoever finished it. A typed figure
 * stands in place of what was measured. Times in milliseconds.
 * @example labourMinutes([{ step: 'salt', by: 'i', what: 'begin', at: 0, minutes: null }, { step: 'salt', by: 'i', what: 'finish', at: 240_000, minutes: null }]) //=> Map { 'salt' => 4 }
 */
export function labourMinutes(marks: readonly WorkMark[]): Map<string, number> {
  const minutes = new Map<string, number>();
  const begun = new Map<string, Map<string, number>>();
  for (const mark of [...marks].sort((a, b) => a.at - b.at)) {
    if (mark.what === 'begin') {
      const people = begun.get(mark.step) ?? new Map<string, number>();
      if (!people.has(mark.by)) people.set(mark.by, mark.at);
      begun.set(mark.step, people);
      continue;
    }
    const measured = [...(begun.get(mark.step)?.values() ?? [])].reduce(
      (sum, from) => sum + (mark.at - from) / 60_000,
      0,
    );
    const own = mark.minutes ?? measured;
    if (mark.what === 'finish' && own > 0) minutes.set(mark.step, (minutes.get(mark.step) ?? 0) + own);
    begun.delete(mark.step);
  }
  return minutes;
}
