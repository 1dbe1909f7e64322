import { counted } from '../units/print.js';
import { RISE_LIMIT } from '../watching/index.js';
import { saltBand } from '../salt/bands.js';
import type { LotFacts } from './facts.js';
import {
  colourAtPlace,
  findingOf,
  GAS_FINDINGS,
  LIVE_JAR_TODO,
  PLACES,
  PRESSURE_HEATED,
  type Finding,
  type Place,
} from './findings.js';
import { isStricter, stricter, type Verdict } from './verdicts.js';

export interface Judgement {
  readonly verdict: Verdict;
  /** Every reason, the decisive ones first. */
  readonly reasons: readonly string[];
  readonly todo: readonly string[];
}

interface Reason {
  readonly verdict: Verdict;
  readonly words: string;
}

/** Older than this a reading says nothing of today. */
const STALE_HOURS = 7 * 24;
/** In the first hours nobody expects a pH yet. */
const NO_PH_BEFORE_DAYS = 1;
/** Beyond every deadline of the table. Source: handbook 3.3, 3.4. */
const EVERY_DEADLINE_DAYS = 21;
const LIVELY_DAYS = 5;
const LIVELY_CELSIUS = 22;

/**
 * A verdict from a finding, its place and the facts of its lot, with every reason. Looks alone never give one: without
 * a reading that counts nothing is better than "Watch", and no look outweighs a deadline, a rising pH or a hold. What
 * is missing, or no number, is never read in the lenient sense. Source: handbook 3.3, 3.4; worked case W25.
 * @throws {RangeError} a finding that is not in the guide; a limit above 4.6
 */
export function judge(input: { finding: string; place: Place; facts: LotFacts }): Judgement {
  const finding = findingOf(input.finding);
  if (!finding) throw new RangeError(`no finding “${input.finding}” in the guide`);
  const facts = known(input.facts);
  const { place } = input;
  if (!(facts.acidLimit <= 4.6)) throw new RangeError('no house limit lies above 4.6');
  const jar = jarReason(finding, place, facts);
  const reasons: Reason[] = [
    ...ownReasons(finding, place, facts),
    ...(jar ? [jar.reason] : []),
    ...factReasons(facts, finding.key),
  ];
  const verdict = reasons.reduce<Verdict>((sum, one) => stricter(sum, one.verdict), 'fine');
  const sorted = [...reasons].sort((a, b) =>
    isStricter(a.verdict, b.verdict) ? -1 : isStricter(b.verdict, a.verdict) ? 1 : 0,
  );
  const asks =
    facts.ph === null || !facts.phCounts || !((facts.phHoursAgo ?? Infinity) <= STALE_HOURS)
      ? ['Read its pH now, blended']
      : [];
  const held =
    verdict === 'hold' || verdict === 'throwOut'
      ? ['Do not taste', 'When in doubt, ask the local food authority or a qualified process authority']
      : [];
  return {
    verdict,
    reasons: sorted.map(({ words }) => words),
    todo: [...new Set([...asks, ...(jar?.todo ?? []), ...finding.todo, ...held])],
  };
}

/** What is no number is not known; a pH that is none is a high one, and an age that is not known is any age. */
function known(facts: LotFacts): LotFacts {
  const number = (value: number | null): number | null => (value !== null && Number.isFinite(value) ? value : null);
  const isPh = facts.ph === null || (facts.ph >= 0 && facts.ph <= 14);
  return {
    ...facts,
    ph: isPh ? facts.ph : 14,
    phCounts: facts.phCounts && isPh,
    phHoursAgo: number(facts.phHoursAgo),
    celsius: number(facts.celsius),
    waterPhaseSalt: facts.waterPhaseSalt !== null && facts.waterPhaseSalt >= 0 ? number(facts.waterPhaseSalt) : null,
    ageDays: facts.ageDays >= 0 ? facts.ageDays : Infinity,
    rise: Number.isFinite(facts.rise) ? facts.rise : Infinity,
  };
}

/** What the finding says by itself, at its place. */
function ownReasons(finding: Finding, place: Place, facts: LotFacts): Reason[] {
  const own = finding.by?.(facts, place);
  const colour = colourAtPlace(finding.key, place);
  return [
    own
      ? { verdict: own[0], words: own[1] }
      : { verdict: finding.usual, words: `${finding.name}, ${PLACES[place]}: ${finding.means}` },
    ...(colour ? [{ verdict: colour[0], words: colour[1] }] : []),
    ...(!colour && finding.places.length > 0 && !finding.places.includes(place)
      ? [{ verdict: 'watch' as const, words: `It is not usually ${PLACES[place]}: compare the pictures again.` }]
      : []),
  ];
}

/** Gas or new cloudiness in a packed jar: whatever it would be in a vessel, here the run is held. */
function jarReason(
  finding: Finding,
  place: Place,
  facts: LotFacts,
): { reason: Reason; todo: readonly string[] } | null {
  if (!(facts.stage === 'packed' || place === 'jar') || !GAS_FINDINGS.includes(finding.key)) return null;
  if (facts.heated === false)
    return {
      reason: { verdict: 'hold', words: 'Gas or new cloudiness in a live packed jar: it works on. Its run is held.' },
      todo: LIVE_JAR_TODO,
    };
  return {
    reason: {
      verdict: 'hold',
      words: `Gas or new cloudiness in a ${facts.heated === null ? 'packed jar that may have been heated' : 'heated jar'}: something lives in it. Its run is held.`,
    },
    todo: PRESSURE_HEATED,
  };
}

/** What the facts say by themselves, whatever is seen. Source: handbook 3.3, 3.4. */
function factReasons(facts: LotFacts, finding: string): Reason[] {
  const reasons = [...acidReasons(facts), ...stateReasons(facts, finding)];
  const ph = facts.ph === null ? null : facts.ph.toFixed(2);
  if (reasons.length === 0 && ph !== null)
    reasons.push({ verdict: 'fine', words: `pH ${ph}${facts.trend === 'none' ? '' : `, ${facts.trend}`}, in time.` });
  return reasons;
}

function acidReasons(facts: LotFacts): Reason[] {
  const reasons: Reason[] = [];
  const ph = facts.ph === null ? null : facts.ph.toFixed(2);
  const sour = facts.ph !== null && facts.phCounts && facts.ph <= 4.6;
  if (facts.twiceLate) reasons.push({ verdict: 'throwOut', words: 'Above 4.6 at twice its deadline.' });
  else if (facts.late)
    reasons.push({
      verdict: 'hold',
      words: `${ph === null ? 'No pH at 4.6 or lower' : `pH ${ph}`} past its deadline: acid came too late, whatever it looks like.`,
    });
  if (facts.stage !== 'packed' && facts.ageDays > EVERY_DEADLINE_DAYS && !sour)
    reasons.push({
      verdict: 'hold',
      words: `Over ${EVERY_DEADLINE_DAYS} days old, and ${ph === null ? 'its pH was never read' : facts.phCounts ? `its pH is ${ph}, above 4.6` : 'no blended reading says that it is sour'}: past every deadline.`,
    });
  if (facts.onHold) reasons.push({ verdict: 'hold', words: 'It is on hold already.' });
  if (!(facts.rise <= RISE_LIMIT))
    reasons.push({
      verdict: 'hold',
      words: Number.isFinite(facts.rise)
        ? `Its pH has risen by ${facts.rise.toFixed(2)}: the acid is being eaten.`
        : 'Whether its pH has risen is not known.',
    });
  else if (facts.trend === 'rising')
    reasons.push({ verdict: 'watch', words: `Its pH is rising, by ${facts.rise.toFixed(2)}.` });
  if (facts.ph === null) {
    if (facts.ageDays >= NO_PH_BEFORE_DAYS || facts.stage !== 'ferment')
      reasons.push({ verdict: 'watch', words: 'Its pH was never read. Looks alone give no verdict.' });
  } else if (!facts.phCounts) {
    if (facts.ageDays >= NO_PH_BEFORE_DAYS || facts.stage !== 'ferment')
      reasons.push({
        verdict: 'watch',
        words: `pH ${ph}, but not by a blended reading with a meter fit for release: it proves nothing yet.`,
      });
  } else if (!((facts.phHoursAgo ?? Infinity) <= STALE_HOURS)) {
    reasons.push({
      verdict: 'watch',
      words:
        facts.phHoursAgo === null
          ? 'When its pH was read is not known.'
          : `Its last pH that counts is ${counted(Math.floor(facts.phHoursAgo / 24), 'day')} old.`,
    });
  }
  if (facts.ph !== null && facts.ph > facts.acidLimit && facts.stage !== 'ferment')
    reasons.push({
      verdict: 'hold',
      words: `pH ${ph} is above the limit of ${facts.acidLimit}, at the ${facts.stage === 'finish' ? 'finish' : 'jar'}.`,
    });
  if (facts.heated !== false && facts.stage === 'packed' && facts.trend === 'falling')
    reasons.push({ verdict: 'hold', words: 'Packed, and its pH still falls: something lives in it.' });
  return reasons;
}

function stateReasons(facts: LotFacts, finding: string): Reason[] {
  const reasons: Reason[] = [];
  const { celsius, waterPhaseSalt: salt, closure } = facts;
  const live = facts.stage !== 'packed';
  if (celsius !== null && celsius > 32) reasons.push({ verdict: 'act', words: `${celsius.toFixed(1)} °C: too warm.` });
  if (celsius !== null && celsius < 4 && maybeYounger(facts, 3) && facts.stage === 'ferment')
    reasons.push({ verdict: 'act', words: `${celsius.toFixed(1)} °C in its first days: too cold to start.` });
  if (celsius === null && live) reasons.push({ verdict: 'watch', words: 'Its temperature is not known.' });
  // It may be weak as well as stall: what either asks for is asked.
  if (salt === null)
    reasons.push({ verdict: 'act', words: 'Its salt is not known: have it measured, and watch its pH.' });
  else {
    const band = saltBand(salt);
    const figure = `${(salt * 100).toFixed(2)} % salt in the water phase`;
    if (band === 'weak')
      reasons.push({ verdict: 'act', words: `${figure}: weak, the wrong microbes get in and it softens.` });
    if (band === 'caution') reasons.push({ verdict: 'watch', words: `${figure}: on the weak side.` });
    if (band === 'slow') reasons.push({ verdict: 'watch', words: `${figure}: it goes slowly.` });
    if (band === 'stalls') reasons.push({ verdict: 'act', words: `${figure}: it stalls.` });
  }
  if (live) {
    const tight = closure === null || closure === 'sealed' || closure === 'vacuum';
    const lively =
      maybeYounger(facts, LIVELY_DAYS + 1e-9) ||
      !(celsius !== null && celsius <= LIVELY_CELSIUS) ||
      facts.sweet !== false;
    if (closure === null) reasons.push({ verdict: 'watch', words: 'How it is closed is not known.' });
    if (tight && lively)
      reasons.push({
        verdict: GAS_FINDINGS.includes(finding) ? 'act' : 'watch',
        words: `${closure === null ? 'Perhaps sealed' : closure === 'sealed' ? 'Sealed' : 'In a bag'} while it is lively: burp or vent it by its plan, eyes protected.`,
      });
  }
  // While it lives: in the vessel, and in a jar that was not heated.
  if ((live || facts.heated !== true) && facts.sweet !== false)
    reasons.push({
      verdict: 'watch',
      words: `${facts.sweet === null ? 'Perhaps sweet' : 'Sweet or fruit'}: gas and alcohol go on while there is sugar. ${live ? 'Read its pH and Brix.' : 'Keep it cold, and open one on its days.'}`,
    });
  return reasons;
}

/** Under so many days old, or of an age that nobody knows. */
const maybeYounger = ({ ageDays }: LotFacts, days: number): boolean => !Number.isFinite(ageDays) || ageDays < days;
