import { RISE_LIMIT } from '../watching/index.js';
import type { LotFacts } from './facts.js';
import { findingOf, PLACES, type Place } from './findings.js';
import { isStricter, stricter, type Verdict } from './verdicts.js';

export interface Judgement {
  readonly verdict: Verdict;
  /** Every reason, the decisive ones first. */
  readonly reasons: readonly string[];
  readonly todo: readonly string[];
}

/** Older than this a reading says nothing of today. */
const STALE_HOURS = 7 * 24;
/** In the first hours nobody expects a pH yet. */
const NO_PH_BEFORE_DAYS = 1;

/**
 * A verdict from a finding and the facts of its lot, with every reason. Looks alone never give one: without a pH
 * of these days nothing is better than "Watch", and no look outweighs a deadline, a rising pH or a hold.
 * Source: handbook 3.3, 3.4; worked case W25.
 * @throws {RangeError} a finding that is not in the guide
 */
export function judge(input: { finding: string; place: Place; facts: LotFacts }): Judgement {
  const finding = findingOf(input.finding);
  if (!finding) throw new RangeError(`no finding “${input.finding}” in the guide`);
  const { facts, place } = input;
  const own = finding.by?.(facts, place);
  const reasons: { verdict: Verdict; words: string }[] = [own ? { verdict: own[0], words: own[1] } : { verdict: finding.usual, words: `${finding.name}, ${PLACES[place]}: ${finding.means}` }];
  if (finding.places.length > 0 && !finding.places.includes(place)) reasons.push({ verdict: 'watch', words: `It is not usually ${PLACES[place]}: compare the pictures again.` });
  reasons.push(...factReasons(facts));
  const verdict = reasons.reduce<Verdict>((sum, one) => stricter(sum, one.verdict), 'fine');
  const sorted = [...reasons].sort((a, b) => (isStricter(a.verdict, b.verdict) ? -1 : isStricter(b.verdict, a.verdict) ? 1 : 0));
  const asks = facts.ph === null || (facts.phHoursAgo ?? 0) > STALE_HOURS ? ['Read its pH now, blended'] : [];
  return { verdict, reasons: sorted.map(({ words }) => words), todo: [...new Set([...asks, ...finding.todo, ...(verdict === 'hold' || verdict === 'throwOut' ? ['Do not taste', 'When in doubt, ask the local food authority or a qualified process authority'] : [])])] };
}

/** What the facts say by themselves, whatever is seen. Source: handbook 3.3. */
function factReasons(facts: LotFacts): { verdict: Verdict; words: string }[] {
  const reasons: { verdict: Verdict; words: string }[] = [];
  const ph = facts.ph === null ? null : facts.ph.toFixed(2);
  if (facts.twiceLate) reasons.push({ verdict: 'throwOut', words: `Above ${facts.acidLimit} at twice its deadline.` });
  else if (facts.late) reasons.push({ verdict: 'hold', words: `${ph === null ? 'No pH at 4.6 or lower' : `pH ${ph}`} past its deadline: acid came too late, whatever it looks like.` });
  if (facts.onHold) reasons.push({ verdict: 'hold', words: 'It is on hold already.' });
  if (facts.rise > RISE_LIMIT) reasons.push({ verdict: 'hold', words: `Its pH has risen by ${facts.rise.toFixed(2)}: the acid is being eaten.` });
  else if (facts.trend === 'rising') reasons.push({ verdict: 'watch', words: `Its pH is rising, by ${facts.rise.toFixed(2)}.` });
  if (facts.ph === null) {
    if (facts.ageDays >= NO_PH_BEFORE_DAYS || facts.stage !== 'ferment') reasons.push({ verdict: 'watch', words: 'Its pH was never read. Looks alone give no verdict.' });
  } else if ((facts.phHoursAgo ?? 0) > STALE_HOURS) reasons.push({ verdict: 'watch', words: `Its last pH is ${Math.floor(facts.phHoursAgo! / 24)} days old.` });
  if (facts.ph !== null && facts.ph > facts.acidLimit && facts.stage !== 'ferment') reasons.push({ verdict: 'hold', words: `pH ${ph} is above the limit of ${facts.acidLimit}, at the ${facts.stage === 'finish' ? 'finish' : 'jar'}.` });
  if (facts.celsius !== null && facts.celsius > 32) reasons.push({ verdict: 'act', words: `${facts.celsius.toFixed(1)} °C: too warm.` });
  if (facts.celsius !== null && facts.celsius < 4 && facts.ageDays < 3 && facts.stage === 'ferment') reasons.push({ verdict: 'act', words: `${facts.celsius.toFixed(1)} °C in its first days: too cold to start.` });
  if (facts.heated && facts.stage === 'packed' && facts.trend === 'falling') reasons.push({ verdict: 'hold', words: 'Heated, and its pH still falls: something lives in it.' });
  if (reasons.length === 0 && ph !== null) reasons.push({ verdict: 'fine', words: `pH ${ph}${facts.trend === 'none' ? '' : `, ${facts.trend}`}, in time.` });
  return reasons;
}
