import { laterLocalDay, localDaysBetween } from '../calendar/index.js';
import {
  checkKindOf,
  CHECK_KINDS,
  closureHas,
  QUIET_KINDS,
  ruleWords,
  type AskedCheck,
  type CheckAsks,
  type CheckKind,
} from '../formula/index.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Days in which warm or sweet vessels work twice as fast. Source: handbook 3.1. */
const LIVELY_DAYS = 5;

/** A check as it was made. */
export interface CheckMade {
  readonly what: CheckKind;
  readonly words: string | null;
  readonly at: number;
  /** Nothing to see: no gas, no floater, level as it was. */
  readonly quiet: boolean;
}

/** What a vessel is, as far as its checks depend on it. */
export interface WatchedVessel {
  readonly filledAt: number;
  readonly closure: string;
  /** Contents over brim when it was filled. */
  readonly fillFraction: number;
  /** Of the last reading that counts. */
  readonly lastPh: number | null;
  /** Something higher stands beside it, or nothing counts yet: what a strict eye takes. */
  readonly strictPh?: number | null;
  readonly acidLimit: number;
  readonly onHold: boolean;
  /** Above 22 °C, or with sugar or fruit: gas comes twice as fast. */
  readonly lively: boolean;
  /** When vessels of this formula usually cross the limit, hours after filling; null while too few are known. */
  readonly crossing: { readonly fromHours: number; readonly toHours: number } | null;
  /** A reading off the trend that wants its repeat at once. */
  readonly repeatAsked: boolean;
}

export type DueState = 'due' | 'late' | 'later' | 'waits';

export interface DueCheck {
  /** Of the kind, and of the house's own words where it has them. */
  readonly key: string;
  readonly what: CheckKind;
  readonly words: string | null;
  readonly name: string;
  readonly rule: string;
  readonly from: number;
  readonly due: number;
  /** From here on it is late. */
  readonly late: number;
  readonly state: DueState;
  /** Times it was to be made and was not. They stay part of the record. */
  readonly missed: number;
  /** "All quiet" answers it. */
  readonly mayBeQuiet: boolean;
  /** A figure or words, of a check in the house's own words. */
  readonly asks: CheckAsks | null;
  /** Why it waits, or why now. */
  readonly why: string | null;
}

/** Nobody tastes above this, whatever the house limit. Source: handbook 3.1, 6.10. */
export const TASTE_FROM_PH = 4.6;
/** Above this share of the brim a vessel is looked at more often on its first day. Source: handbook 3.1. */
export const FULL_VESSEL = 0.88;

export const checkKey = (check: { what: CheckKind; words: string | null }): string =>
  check.words ? `${check.what}:${check.words}` : check.what;

/**
 * What a plan asks of a vessel now: each check with its window, whether it is late, and how often it was missed.
 * A plan changed on the way counts from its own moment (`planSince`); what was done before stays done. Moments in ms.
 * Source: handbook 3.1.
 */
export function dueChecks(input: {
  plan: readonly AskedCheck[];
  vessel: WatchedVessel;
  made: readonly CheckMade[];
  now: number;
  timeZone: string;
  planSince?: number;
  /** What was asked before the plan was changed; left out: nobody knows, and nothing counts as new. */
  planBefore?: readonly { readonly what: CheckKind; readonly words: string | null }[] | undefined;
}): DueCheck[] {
  const { plan, vessel, now, timeZone } = input;
  const since = Math.max(vessel.filledAt, input.planSince ?? -Infinity);
  const before = input.planBefore && new Set(input.planBefore.map(checkKey));
  const isNew = (key: string): boolean => before !== undefined && !before.has(key);
  return plan.flatMap((check): DueCheck[] => {
    if (!applies(check, vessel)) return [];
    const key = checkKey(check);
    const made = input.made
      .filter((one) => checkKey(one) === key && one.at >= vessel.filledAt && one.at <= now)
      .sort((a, b) => a.at - b.at);
    const slot =
      check.rule.kind === 'onDays'
        ? onDays(check.rule, { vessel, made, now, timeZone, since })
        : repeated(check, { vessel, made, now, since, asked: isNew(key) ? since : vessel.filledAt });
    if (!slot) return [];
    const common = {
      key,
      what: check.what,
      words: check.words,
      name: check.words || CHECK_KINDS[check.what],
      rule: ruleWords(check.rule),
      mayBeQuiet: QUIET_KINDS.includes(check.what) && !check.asks,
      asks: check.asks ?? null,
    };
    if (check.what === 'ph' && vessel.repeatAsked)
      return [
        {
          ...common,
          ...slot,
          from: Math.min(slot.from, now),
          due: now,
          late: now + HOUR,
          state: 'due',
          why: 'the last reading is off the trend: read again now',
        },
      ];
    const waits = check.what === 'taste' ? whyNotTaste(vessel) : null;
    const state = waits ? 'waits' : now < slot.from ? 'later' : now >= slot.late ? 'late' : 'due';
    return [{ ...common, ...slot, state, why: waits }];
  });
}

/** Why nobody tastes from this vessel now; null when somebody may. Only a reading that counts opens it. Source: handbook 6.10. */
export function whyNotTaste(vessel: {
  readonly lastPh: number | null;
  readonly strictPh?: number | null;
  readonly onHold: boolean;
}): string | null {
  if (vessel.onHold) return 'on hold: do not taste';
  const { lastPh, strictPh = lastPh } = vessel;
  if (lastPh === null)
    return strictPh === null
      ? 'tasting opens when its pH is read'
      : 'tasting opens on a blended reading, by a meter fit for release';
  if (!(lastPh <= TASTE_FROM_PH)) return `tasting opens at pH ${TASTE_FROM_PH} or lower`;
  return strictPh !== null && !(strictPh <= TASTE_FROM_PH)
    ? `pH ${strictPh.toFixed(2)} was read since: read it again before anybody tastes`
    : null;
}

function applies(check: AskedCheck, vessel: WatchedVessel): boolean {
  if (!closureHas(check.what, vessel.closure)) return false;
  switch (check.condition) {
    case 'always':
      return true;
    case 'sealed':
      return vessel.closure === 'sealed';
    case 'aboveLimit':
      return !atTheLimit(vessel);
    case 'full':
      return vessel.fillFraction > FULL_VESSEL;
  }
}

/** By a reading that counts, and nothing higher beside it. */
const atTheLimit = ({ lastPh, strictPh = lastPh, acidLimit }: WatchedVessel): boolean =>
  lastPh !== null && lastPh <= acidLimit && strictPh !== null && strictPh <= acidLimit;

type Slot = Pick<DueCheck, 'from' | 'due' | 'late' | 'missed'>;

/** Slots on local days, day 0 the day of filling: due by the evening, late when the day is over. */
function onDays(
  rule: Extract<AskedCheck['rule'], { kind: 'onDays' }>,
  input: { vessel: WatchedVessel; made: readonly CheckMade[]; now: number; timeZone: string; since: number },
): Slot | null {
  const { vessel, made, now, timeZone, since } = input;
  const dayOf = (at: number): number => localDaysBetween(vessel.filledAt, at, timeZone);
  const days = asked(rule);
  const begins = (index: number): number =>
    Math.max(laterLocalDay(vessel.filledAt, days.dayAt(index), timeZone), vessel.filledAt);
  const done = new Set(made.map(({ at }) => days.indexAt(dayOf(at))));
  const current = days.indexAt(dayOf(now));
  // Slots that are over and belong to this plan; a slot is done by whatever was made until the next one began.
  const first =
    since <= vessel.filledAt
      ? 0
      : days.indexAt(dayOf(since)) + (begins(Math.max(0, days.indexAt(dayOf(since)))) >= since ? 0 : 1);
  const over = Math.max(0, current - Math.max(0, first));
  const missed = over - [...done].filter((index) => index >= Math.max(0, first) && index < current).length;
  const index = current >= 0 && !done.has(current) ? current : current + 1;
  if (index >= days.many) return null;
  const [from, end] = [begins(index), laterLocalDay(vessel.filledAt, days.dayAt(index) + 1, timeZone)];
  return { from, due: from + (end - from) * (20 / 24), late: end, missed };
}

/** The days a rule names, and those that follow for ever, by their number: reckoned, never walked. */
function asked(rule: { days: readonly number[]; thenEveryDays: number | null }): {
  many: number;
  dayAt: (index: number) => number;
  indexAt: (day: number) => number;
} {
  const listed = [...new Set(rule.days)].sort((a, b) => a - b);
  const [last, step] = [listed.at(-1)!, rule.thenEveryDays];
  return {
    many: step ? Infinity : listed.length,
    dayAt: (index) => listed[index] ?? last + step! * (index - listed.length + 1),
    /** The last that is not after this day; -1 before the first. */
    indexAt: (day) =>
      day < last || !step
        ? listed.findLastIndex((one) => one <= day)
        : listed.length - 1 + Math.floor((day - last) / step),
  };
}

/**
 * Every so many hours after the last time; doing it early moves the next one. The interval is that of the phase in
 * which the last time lies: what became due then stays due until it is done, whatever phase has come since.
 */
function repeated(
  check: AskedCheck,
  input: { vessel: WatchedVessel; made: readonly CheckMade[]; now: number; since: number; asked: number },
): Slot | null {
  const { vessel, made, now, since } = input;
  const rule = check.rule as Exclude<AskedCheck['rule'], { kind: 'onDays' }>;
  // Never made, it counts from when it was first asked for: what is new is not late from the filling on.
  const last = made.at(-1)?.at ?? input.asked;
  const hours = intervalHours(check, vessel, made, last);
  let due = last + hours * HOUR;
  if (rule.kind === 'every' && rule.forDays !== null && due > vessel.filledAt + rule.forDays * DAY) return null;
  if (rule.kind === 'aroundCrossing') {
    if (atTheLimit(vessel)) return null;
    if (vessel.crossing) due = Math.max(due, vessel.filledAt + vessel.crossing.fromHours * HOUR);
  }
  const span = hours * HOUR;
  const times = [vessel.filledAt, ...made.map(({ at }) => at)];
  const asksOfEarlier = rule.kind === 'untilQuiet';
  const missed = times.reduce((sum, begin, index) => {
    // Only what became due while this plan counted.
    const from = Math.max(begin, since);
    const end = times[index + 1] ?? now;
    return end <= from
      ? sum
      : sum +
          Math.max(0, Math.round(timesWanted(check, vessel, asksOfEarlier ? made.slice(0, index) : [], from, end)) - 1);
  }, 0);
  return { from: due - span / 4, due, late: due + Math.max(HOUR, span / 4), missed };
}

/** How many times a check was wanted between two moments, phase by phase, as a number with its fraction. */
function timesWanted(
  check: AskedCheck,
  vessel: WatchedVessel,
  made: readonly CheckMade[],
  from: number,
  to: number,
): number {
  const { rule } = check;
  const bounds = [
    rule.kind === 'untilQuiet' ? rule.forDays : Infinity,
    checkKindOf(check.what).oftenWhenLively && vessel.lively ? LIVELY_DAYS : Infinity,
  ]
    .map((days) => vessel.filledAt + days * DAY)
    .filter((at) => at > from && at < to)
    .sort((a, b) => a - b);
  const edges = [from, ...bounds, to];
  return edges
    .slice(1)
    .reduce(
      (sum, end, index) => sum + (end - edges[index]!) / (intervalHours(check, vessel, made, edges[index]!) * HOUR),
      0,
    );
}

/** Hours between two times, as it is at a moment, by what had been made until then. */
function intervalHours(check: AskedCheck, vessel: WatchedVessel, made: readonly CheckMade[], at: number): number {
  const rule = check.rule as Exclude<AskedCheck['rule'], { kind: 'onDays' }>;
  const half =
    checkKindOf(check.what).oftenWhenLively && vessel.lively && at - vessel.filledAt < LIVELY_DAYS * DAY ? 0.5 : 1;
  if (rule.kind !== 'untilQuiet') return rule.hours * half;
  const phaseTwo = vessel.filledAt + rule.forDays * DAY;
  if (at < phaseTwo) return rule.hours * half;
  // Two in a row of this phase without gas, once gas had come at all: quiet ones before it say nothing.
  const lastOnes = made.slice(-rule.quietTimes);
  const gasCame = made.find(({ quiet }) => !quiet)?.at ?? Infinity;
  const calm =
    lastOnes.length === rule.quietTimes && lastOnes.every((one) => one.quiet && one.at >= phaseTwo && one.at > gasCame);
  return calm ? rule.thenEveryDays * 24 : rule.thenHours * half;
}
