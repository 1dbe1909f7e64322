import { accept, refuse, type Outcome } from '../refusal.js';
import { isStricter, VERDICT_WORDS, VERDICTS, type Verdict } from './verdicts.js';

/**
 * What a person makes of the guide's verdict: stricter by anyone, laxer only by a reviewer with a written reason.
 * Source: handbook 3.4.
 */
export function decideVerdict(input: {
  guide: Verdict;
  said: Verdict;
  isReviewer: boolean;
  reason: string | null;
}): Outcome<{ verdict: Verdict; changed: 'stricter' | 'laxer' | null }> {
  const { guide, said, isReviewer, reason } = input;
  if (![guide, said].every((one) => VERDICTS.includes(one))) throw new RangeError('a verdict is one of five words');
  if (said === guide) return accept({ verdict: said, changed: null });
  if (isStricter(said, guide)) return accept({ verdict: said, changed: 'stricter' });
  if (!isReviewer)
    return refuse(
      'finding.laxer',
      `The guide says “${VERDICT_WORDS[guide]}”; “${VERDICT_WORDS[said]}” is milder. Only a reviewer makes it milder, with a written reason. Stricter is open to everybody.`,
      { field: 'verdict', facts: { guide, said } },
    );
  if (!reason?.trim())
    return refuse('finding.laxer', `A verdict milder than “${VERDICT_WORDS[guide]}” needs its written reason.`, {
      field: 'reason',
      facts: { guide, said },
    });
  return accept({ verdict: said, changed: 'laxer' });
}
