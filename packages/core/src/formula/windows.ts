import { counted } from '../units/print.js';
/** When what a formula makes is tasted, ready, chilled and at its best, and of which of its lots that is so. */
export interface FormulaWindow {
  /** Begun with kept brine or a culture, without, or either. */
  readonly starter: boolean | null;
  /** Where its temperature lies, °C; null: wherever. */
  readonly celsius: { readonly least: number; readonly most: number } | null;
  /** Filled from the first of these months to the last, 1 to 12; over the turn of the year where the first is later. */
  readonly months: { readonly from: number; readonly to: number } | null;
  readonly variant: string | null;
  /** Days after filling; each may be empty. */
  readonly tasteDay: number | null;
  readonly fromDay: number | null;
  readonly toDay: number | null;
  /** So many days where it is filled, then the cold. */
  readonly counterDays: number | null;
  /** Days after chilling. */
  readonly bestFromDay: number | null;
  readonly bestUntilDay: number | null;
}

/** A window that says nothing yet, of every lot. */
export const EMPTY_WINDOW: FormulaWindow = {
  starter: null,
  celsius: null,
  months: null,
  variant: null,
  tasteDay: null,
  fromDay: null,
  toDay: null,
  counterDays: null,
  bestFromDay: null,
  bestUntilDay: null,
};

/** What is known of a filled vessel, as far as windows go by it. */
export interface WindowFacts {
  readonly starter: boolean;
  /** Mean since filling, or the usual of its room where nobody read it. */
  readonly celsius: number;
  readonly celsiusRead: boolean;
  /** 1 to 12, of the day it was filled. */
  readonly month: number;
  readonly variant: string | null;
}

export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/**
 * The window that applies to a vessel: of those whose every condition is met, the one with the most conditions; of two
 * alike, the first written. Null where none applies.
 */
export function windowFor<W extends FormulaWindow>(windows: readonly W[], facts: WindowFacts): W | null {
  let best: W | null = null;
  for (const one of windows)
    if (applies(one, facts) && (best === null || conditions(one) > conditions(best))) best = one;
  return best;
}

const conditions = ({ starter, celsius, months, variant }: FormulaWindow): number =>
  [starter, celsius, months, variant].filter((one) => one !== null).length;

function applies({ starter, celsius, months, variant }: FormulaWindow, facts: WindowFacts): boolean {
  if (starter !== null && starter !== facts.starter) return false;
  if (celsius && (facts.celsius < celsius.least || facts.celsius > celsius.most)) return false;
  if (variant !== null && variant !== facts.variant) return false;
  if (!months) return true;
  const { from, to } = months;
  return from <= to ? facts.month >= from && facts.month <= to : facts.month >= from || facts.month <= to;
}

/** When it applies: `with a starter, 18 to 22 °C, filled June to August`; `always` without a condition. */
export function windowConditionWords({ starter, celsius, months, variant }: FormulaWindow): string {
  const words = [
    starter === null ? null : starter ? 'with a starter' : 'without a starter',
    celsius && `${celsius.least} to ${celsius.most} °C`,
    months &&
      (months.from === months.to
        ? `filled in ${MONTHS[months.from - 1]}`
        : `filled ${MONTHS[months.from - 1]} to ${MONTHS[months.to - 1]}`),
    variant,
  ].filter(Boolean);
  return words.join(', ') || 'always';
}

/** What it says: `taste from day 5, ready day 8 to 14, 3 days out and then cold, best 7 to 30 days after chilling`. */
export function windowDaysWords(of: FormulaWindow): string {
  return [
    of.tasteDay === null ? null : `taste from day ${of.tasteDay}`,
    spanWords('ready', of.fromDay, of.toDay),
    of.counterDays === null ? null : `${counted(of.counterDays, 'day')} out, then cold`,
    bestWords(of),
  ]
    .filter(Boolean)
    .join(', ');
}

function spanWords(what: string, from: number | null, to: number | null): string | null {
  if (from !== null && to !== null) return from === to ? `${what} on day ${from}` : `${what} day ${from} to ${to}`;
  if (from !== null) return `${what} from day ${from}`;
  return to === null ? null : `${what} by day ${to}`;
}

function bestWords({ bestFromDay: from, bestUntilDay: until }: FormulaWindow): string | null {
  if (from !== null && until !== null) return `best ${from} to ${until} days after chilling`;
  if (from !== null) return `best from ${counted(from, 'day')} after chilling`;
  return until === null ? null : `best until ${counted(until, 'day')} after chilling`;
}

/** Why this window: `with a starter, 18 to 22 °C (mean 19.4 °C)`. */
export function windowWhy(of: FormulaWindow, facts: WindowFacts): string {
  const words = windowConditionWords(of);
  if (!of.celsius) return words === 'always' ? 'the formula’s window for all' : words;
  const at = `${facts.celsiusRead ? 'mean' : 'its room,'} ${facts.celsius.toFixed(1)} °C`;
  return words.replace(' °C', ` °C (${at})`);
}

/** What is wrong with a window before it is kept; null when nothing is. */
export function windowFault(of: FormulaWindow): string | null {
  const { tasteDay, fromDay, toDay, counterDays, bestFromDay, bestUntilDay, celsius } = of;
  if ([tasteDay, fromDay, toDay, counterDays, bestFromDay, bestUntilDay].every((day) => day === null))
    return 'It says no day yet.';
  if (celsius && celsius.least > celsius.most)
    return `${celsius.least} to ${celsius.most} °C: the cooler end comes first.`;
  if (fromDay !== null && toDay !== null && fromDay > toDay)
    return `Ready from day ${fromDay} to day ${toDay}: the earlier day comes first.`;
  if (tasteDay !== null && toDay !== null && tasteDay > toDay)
    return `First tasted on day ${tasteDay}, after its last day ${toDay}.`;
  if (bestFromDay !== null && bestUntilDay !== null && bestFromDay > bestUntilDay)
    return `Best from ${bestFromDay} until ${counted(bestUntilDay, 'day')}: the earlier one comes first.`;
  return null;
}
