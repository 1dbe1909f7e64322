import {
  type Doneness,
  NO_LAST_DAY,
  type FormulaWindow,
  type WindowFacts,
  windowDaysWords,
  windowFor,
  windowWhy,
} from '../formula/index.js';
import { readyWindow } from './doneness.js';

const DAY = 86_400_000;

/** When a vessel is tasted, ready, chilled and at its best, and why these days. Moments are ms since 1970. */
export interface ReadyAt {
  readonly from: number;
  readonly to: number;
  /** Which of the formula's windows, or what stands in for one. */
  readonly why: string;
  /** What that window says, in words; empty where the formula has none that applies. */
  readonly says: string;
  readonly tasteDay: number | null;
  /** When it goes to the cold. */
  readonly coldOn: number | null;
  /** Best between; counted from when it came to the cold, or is to come there. Null: the window says nothing of it. */
  readonly best: { readonly from: number | null; readonly until: number | null; readonly chilled: boolean } | null;
}

/**
 * The window of a formula that applies to a vessel, as moments. Without one, the days of its rule or its usual days.
 * `coldSince`: when it came to a cold room; null while it stands elsewhere.
 */
export function readyAt(input: {
  windows: readonly FormulaWindow[];
  facts: WindowFacts;
  done: Doneness | null;
  usualDays: number;
  filledAt: number;
  coldSince: number | null;
}): ReadyAt {
  const { windows, facts, filledAt, coldSince } = input;
  const own = windowFor(windows, facts);
  const usual = readyWindow(input);
  if (!own) {
    const why =
      windows.length > 0
        ? 'none of its formula’s windows fits; its usual days'
        : input.done?.days
          ? 'by its formula'
          : 'by its formula’s usual days';
    return { ...usual, why, says: '', tasteDay: null, coldOn: null, best: null };
  }
  const on = (day: number | null, or: number): number => (day === null ? or : filledAt + day * DAY);
  const from = on(own.fromDay, own.toDay === null ? usual.from : Math.min(usual.from, filledAt + own.toDay * DAY));
  const coldOn = own.counterDays === null ? null : filledAt + own.counterDays * DAY;
  const chilledAt = coldSince ?? coldOn;
  const after = (days: number | null): number | null =>
    days === null || chilledAt === null ? null : chilledAt + days * DAY;
  const [bestFrom, bestUntil] = [after(own.bestFromDay), after(own.bestUntilDay)];
  return {
    from,
    to: on(own.toDay, Math.max(usual.to, from)),
    why: windowWhy(own, facts),
    says: windowDaysWords(own),
    tasteDay: own.tasteDay,
    coldOn: coldSince === null ? coldOn : null,
    best:
      bestFrom === null && bestUntil === null
        ? null
        : { from: bestFrom, until: bestUntil, chilled: coldSince !== null },
  };
}

/** The rule of a formula with the days of the window that applies in place of its own. */
export function doneByWindow(done: Doneness | null, window: FormulaWindow | null): Doneness | null {
  if (!done || !window || (window.fromDay === null && window.toDay === null)) return done;
  const from = window.fromDay ?? done.days?.from ?? 0;
  const to = window.toDay ?? done.days?.to ?? null;
  // Ready from a day on, without an end: the rule goes on as long as anything does.
  return { ...done, days: { from, to: to === null || to < from ? NO_LAST_DAY : to } };
}
