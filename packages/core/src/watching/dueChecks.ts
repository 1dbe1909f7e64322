import { laterLocalDay } from '../calendar/index.js';
import { CHECK_KINDS, ruleWords, type Check, type CheckKind } from '../formula/index.js';

const HOUR = 3_600_000;

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
  readonly lastPh: number | null;
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
  /** Why it waits, or why now. */
  readonly why: string | null;
}

/** Kinds that a look alone answers. A pH, a temperature, a taste, a burp and a photo are not among them. */
export const QUIET_KINDS: readonly CheckKind[] = ['look', 'press', 'level', 'airlock', 'skim', 'own'];

/** Nobody tastes above this, whatever the house limit. Source: handbook 3.1, 6.10. */
export const TASTE_FROM_PH = 4.6;
/** Above this share of the brim a vessel is looked at more often on its first day. Source: handbook 3.1. */
export const FULL_VESSEL = 0.88;

export const checkKey = (check: { what: CheckKind; words: string | null }): string => (check.words ? `${check.what}:${check.words}` : check.what);

/**
 * What a plan asks of a vessel now: each check with its window, whether it is late, and how often it was missed.
 * A plan changed on the way counts from its own moment (`planSince`); what was done before stays done. Moments in ms.
 * Source: handbook 3.1.
 */
export function dueChecks(input: { plan: readonly Check[]; vessel: WatchedVessel; made: readonly CheckMade[]; now: number; timeZone: string; planSince?: number }): DueCheck[] {
  const { plan, vessel, now, timeZone } = input;
  const since = Math.max(vessel.filledAt, input.planSince ?? 0);
  return plan.flatMap((check): DueCheck[] => {
    if (!applies(check, vessel)) return [];
    const key = checkKey(check);
    const made = input.made.filter((one) => checkKey(one) === key && one.at >= vessel.filledAt && one.at <= now).sort((a, b) => a.at - b.at);
    const slot = check.rule.kind === 'onDays' ? onDays(check.rule, { vessel, made, now, timeZone, since }) : repeated(check, { vessel, made, now, since });
    if (!slot) return [];
    const common = { key, what: check.what, words: check.words, name: check.words || CHECK_KINDS[check.what], rule: ruleWords(check.rule), mayBeQuiet: QUIET_KINDS.includes(check.what) };
    if (check.what === 'ph' && vessel.repeatAsked) return [{ ...common, ...slot, from: Math.min(slot.from, now), due: now, late: now + HOUR, state: 'due', why: 'the last reading is off the trend: read again now' }];
    const waits = check.what === 'taste' ? whyNotTaste(vessel) : null;
    const state = waits ? 'waits' : now < slot.from ? 'later' : now >= slot.late ? 'late' : 'due';
    return [{ ...common, ...slot, state, why: waits }];
  });
}

/** Why nobody tastes from this vessel now; null when somebody may. Source: handbook 6.10. */
export function whyNotTaste(vessel: { readonly lastPh: number | null; readonly onHold: boolean }): string | null {
  if (vessel.onHold) return 'on hold: do not taste';
  if (vessel.lastPh === null) return 'tasting opens when its pH is read';
  return vessel.lastPh > TASTE_FROM_PH ? `tasting opens at pH ${TASTE_FROM_PH} or lower` : null;
}

function applies(check: Check, vessel: WatchedVessel): boolean {
  // What a closure has not, nobody looks at.
  if (check.what === 'airlock' && vessel.closure !== 'airlock' && vessel.closure !== 'valve') return false;
  if (check.what === 'swelling' && vessel.closure !== 'vacuum') return false;
  switch (check.condition) {
    case 'always': return true;
    case 'sealed': return vessel.closure === 'sealed';
    case 'aboveLimit': return vessel.lastPh === null || vessel.lastPh > vessel.acidLimit;
    case 'full': return vessel.fillFraction > FULL_VESSEL;
  }
}

type Slot = Pick<DueCheck, 'from' | 'due' | 'late' | 'missed'>;

/** Slots on local days, day 0 the day of filling: due by the evening, late when the day is over. */
function onDays(rule: Extract<Check['rule'], { kind: 'onDays' }>, input: { vessel: WatchedVessel; made: readonly CheckMade[]; now: number; timeZone: string; since: number }): Slot | null {
  const { vessel, made, now, timeZone, since } = input;
  const begins = (day: number): number => laterLocalDay(vessel.filledAt, day, timeZone);
  const days = [...rule.days].sort((a, b) => a - b);
  if (rule.thenEveryDays) while (begins(days.at(-1)!) <= now) days.push(days.at(-1)! + rule.thenEveryDays);
  const slots = days.map((day, index) => ({ from: Math.max(begins(day), vessel.filledAt), end: begins(day + 1), next: index + 1 < days.length ? begins(days[index + 1]!) : Infinity }));
  const isDone = (slot: (typeof slots)[number]): boolean => made.some(({ at }) => at >= slot.from && at < slot.next);
  const current = slots.findLastIndex((slot) => slot.from <= now);
  const missed = slots.slice(0, Math.max(0, current)).filter((slot) => slot.from >= since && !isDone(slot)).length;
  const open = current >= 0 && !isDone(slots[current]!) ? slots[current] : slots[current + 1];
  if (!open) return null;
  return { from: open.from, due: open.from + (open.end - open.from) * (20 / 24), late: open.end, missed };
}

/** Every so many hours after the last time; doing it early moves the next one. */
function repeated(check: Check, input: { vessel: WatchedVessel; made: readonly CheckMade[]; now: number; since: number }): Slot | null {
  const { vessel, made, now, since } = input;
  const rule = check.rule as Exclude<Check['rule'], { kind: 'onDays' }>;
  const last = made.at(-1)?.at ?? vessel.filledAt;
  const hours = intervalHours(rule, vessel, made, now) * (check.what === 'burp' && vessel.lively && now - vessel.filledAt < 5 * 24 * HOUR ? 0.5 : 1);
  let due = last + hours * HOUR;
  if (rule.kind === 'every' && rule.forDays !== null && due > vessel.filledAt + rule.forDays * 24 * HOUR) return null;
  if (rule.kind === 'aroundCrossing') {
    if (vessel.lastPh !== null && vessel.lastPh <= vessel.acidLimit) return null;
    if (vessel.crossing) due = Math.max(due, vessel.filledAt + vessel.crossing.fromHours * HOUR);
  }
  const span = hours * HOUR;
  const gaps = [vessel.filledAt, ...made.map(({ at }) => at)].filter((at) => at >= since || at === vessel.filledAt);
  const missed = gaps.slice(1).reduce((sum, at, index) => sum + skipped(at - gaps[index]!, span), 0) + skipped(now - Math.max(last, since), span);
  return { from: due - span / 4, due, late: due + Math.max(HOUR, span / 4), missed };
}

/** Times left out between two, with half an interval of grace. */
const skipped = (gap: number, span: number): number => Math.max(0, Math.round(gap / span) - 1);

function intervalHours(rule: Exclude<Check['rule'], { kind: 'onDays' }>, vessel: WatchedVessel, made: readonly CheckMade[], now: number): number {
  if (rule.kind !== 'untilQuiet') return rule.hours;
  if (now - vessel.filledAt < rule.forDays * 24 * HOUR) return rule.hours;
  const lastOnes = made.slice(-rule.quietTimes);
  return lastOnes.length === rule.quietTimes && lastOnes.every(({ quiet }) => quiet) ? rule.thenEveryDays * 24 : rule.thenHours;
}
