/** From nothing to do, to nothing to keep. Source: handbook 3.4. */
export const VERDICTS = ['fine', 'watch', 'act', 'hold', 'throwOut'] as const;
export type Verdict = (typeof VERDICTS)[number];

export const VERDICT_WORDS: Record<Verdict, string> = {
  fine: 'Fine',
  watch: 'Watch',
  act: 'Act',
  hold: 'Hold',
  throwOut: 'Throw out',
};

export const isStricter = (a: Verdict, b: Verdict): boolean => VERDICTS.indexOf(a) > VERDICTS.indexOf(b);
export const stricter = (a: Verdict, b: Verdict): Verdict => (isStricter(a, b) ? a : b);
/** A lot with this verdict is held. */
export const holds = (verdict: Verdict): boolean => verdict === 'hold' || verdict === 'throwOut';

/** Days until somebody looks at a finding again; null where it is held and looked at by a reviewer. Source: handbook 3.4. */
export function lookAgainDays(finding: string, verdict: Verdict): number | null {
  if (verdict === 'fine' || verdict === 'hold' || verdict === 'throwOut') return null;
  return AGAIN_DAYS[finding] ?? (verdict === 'act' ? 1 : 3);
}
/** Where the trade names them: a skimmed film, a ropy brine. */
const AGAIN_DAYS: Readonly<Record<string, number>> = { film: 3, ropy: 4 };
