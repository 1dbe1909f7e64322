import type { Form } from '../vessels/forms.js';
import { accept, type Outcome, refuse } from '../refusal.js';
import { counted } from '../units/print.js';
import { CHECK_KINDS, type CheckKind, type PlanKind } from './checkKinds.js';

/** When a rule of the plan counts. */
export const CHECK_CONDITIONS = {
  always: '',
  sealed: 'while the closure is sealed',
  aboveLimit: 'while the pH is above the limit',
  full: 'when filled above 0.88',
} as const;
export type CheckCondition = keyof typeof CHECK_CONDITIONS;
export const CHECK_CONDITION_KEYS = Object.keys(CHECK_CONDITIONS) as [CheckCondition, ...CheckCondition[]];

export type CheckRule =
  | { readonly kind: 'onDays'; readonly days: number[]; readonly thenEveryDays: number | null }
  | { readonly kind: 'every'; readonly hours: number; readonly forDays: number | null }
  /** Often in the first days, then less, and rarely once so many in a row gave no gas. */
  | {
      readonly kind: 'untilQuiet';
      readonly hours: number;
      readonly forDays: number;
      readonly thenHours: number;
      readonly quietTimes: number;
      readonly thenEveryDays: number;
    }
  /** While this formula usually crosses the limit; without enough past vessels, until it has. */
  | { readonly kind: 'aroundCrossing'; readonly hours: number };

/** What a check in the house's own words wants to know; without it, that it was done. */
export type CheckAsks =
  | {
      readonly kind: 'figure';
      readonly unit: string | null;
      /** Outside these somebody says what was done about it. */
      readonly least: number | null;
      readonly most: number | null;
    }
  | { readonly kind: 'words' };

/** A check of a plan. */
export interface Check {
  readonly what: PlanKind;
  /** The house's own kind. */
  readonly words: string | null;
  readonly rule: CheckRule;
  readonly condition: CheckCondition;
  readonly asks?: CheckAsks | null | undefined;
}

/** A check as it is asked of a vessel: of its plan, or of what was seen on it. */
export type AskedCheck = Omit<Check, 'what'> & { readonly what: CheckKind };

/** `checkWords(…) //=> 'pH on days 1, 2, 3, 5, 7, then every 7 days'` */
export function checkWords(check: AskedCheck): string {
  const name = [check.words || CHECK_KINDS[check.what], asksWords(check.asks)].filter(Boolean).join(', ');
  const { rule } = check;
  return [name, ruleWords(rule), CHECK_CONDITIONS[check.condition]].filter(Boolean).join(' ');
}

/** `asksWords({ kind: 'figure', unit: '%', least: 60, most: 80 }) //=> 'a figure in %, 60 to 80'` */
export function asksWords(asks: CheckAsks | null | undefined): string {
  if (!asks) return '';
  if (asks.kind === 'words') return 'in words';
  const { unit, least, most } = asks;
  const bounds =
    least !== null && most !== null
      ? `${least} to ${most}`
      : least !== null
        ? `${least} or more`
        : most !== null
          ? `${most} at most`
          : '';
  return [`a figure${unit ? ` in ${unit}` : ''}`, bounds].filter(Boolean).join(', ');
}

/** Where a figure lies beside what its check calls usual. */
export function besideUsual(asks: CheckAsks | null | undefined, figure: number | null): 'under' | 'over' | null {
  if (asks?.kind !== 'figure' || figure === null) return null;
  if (asks.least !== null && figure < asks.least) return 'under';
  return asks.most !== null && figure > asks.most ? 'over' : null;
}

/**
 * Whether a check in the house's own words is answered: by its figure or its words, where it asks for them; and a figure
 * outside what the plan calls usual, by what was done about it.
 * @param input.name what the check is called
 */
export function decideAnswered(input: {
  readonly name: string;
  readonly asks: CheckAsks | null | undefined;
  readonly figure: number | null;
  readonly note: string | null;
}): Outcome<{ readonly outside: 'under' | 'over' | null }> {
  const { name, asks, figure, note } = input;
  if (!asks) return accept({ outside: null });
  if (asks.kind === 'words')
    return note?.trim()
      ? accept({ outside: null })
      : refuse('check.unanswered', `“${name}” wants words: write down what was seen.`, { field: 'note' });
  if (figure === null || !Number.isFinite(figure))
    return refuse('check.unanswered', `“${name}” wants ${asksWords(asks)}.`, { field: 'figure' });
  const outside = besideUsual(asks, figure);
  return outside && !note?.trim()
    ? refuse(
        'check.unanswered',
        `${figure}${asks.unit ? ` ${asks.unit}` : ''} is ${outside} what is usual for “${name}” (${asksWords(asks)}). Read it again; if it is so, write down what was done.`,
        { field: 'note' },
      )
    : accept({ outside });
}

const everyWords = (hours: number): string =>
  hours % 24 === 0 ? (hours === 24 ? 'every day' : `every ${hours / 24} days`) : `every ${hours} hours`;

/** `ruleWords({ kind: 'every', hours: 48, forDays: 14 }) //=> 'every 2 days for 14 days'` */
export function ruleWords(rule: CheckRule): string {
  switch (rule.kind) {
    case 'onDays':
      return `on day${rule.days.length > 1 ? 's' : ''} ${rule.days.join(', ')}${rule.thenEveryDays ? `, then every ${rule.thenEveryDays} days` : ''}`;
    case 'every':
      return `${everyWords(rule.hours)}${rule.forDays ? ` for ${counted(rule.forDays, 'day')}` : ''}`;
    case 'untilQuiet':
      return `${everyWords(rule.hours)} for ${counted(rule.forDays, 'day')}, then ${everyWords(rule.thenHours)} until ${rule.quietTimes} in a row gave no gas, then every ${rule.thenEveryDays} days`;
    case 'aroundCrossing':
      return `${everyWords(rule.hours)} while it usually crosses the limit`;
  }
}

const onDays = (what: PlanKind, days: number[], thenEveryDays: number | null = null): Check => ({
  what,
  words: null,
  rule: { kind: 'onDays', days, thenEveryDays },
  condition: 'always',
});
const every = (what: PlanKind, hours: number, forDays: number | null, condition: CheckCondition = 'always'): Check => ({
  what,
  words: null,
  rule: { kind: 'every', hours, forDays },
  condition,
});

const FIRST_WEEK = [1, 2, 3, 4, 5, 6, 7];

/** The plan a house starts from; day 0 is the day of filling. Source: handbook 3.1. */
export const usualChecks = (firstTasteDay: number): Check[] => [
  onDays('ph', [1, 2, 3, 5, 7], 7),
  every('temperature', 12, null),
  onDays('level', FIRST_WEEK, 7),
  onDays('press', FIRST_WEEK, 7),
  {
    what: 'burp',
    words: null,
    rule: { kind: 'untilQuiet', hours: 24, forDays: 5, thenHours: 48, quietTimes: 2, thenEveryDays: 7 },
    condition: 'sealed',
  },
  every('airlock', 72, null),
  onDays('taste', [firstTasteDay]),
];

/** Brined sticks and quick pastes are tasted first on day 3, whole small produce on 7, shred and alliums on 14. */
const FIRST_TASTE: Readonly<Record<Form, number>> = {
  sticks: 3,
  leaf: 3,
  wholeSmall: 7,
  hollow: 7,
  mash: 7,
  berries: 7,
  shred: 14,
  cloves: 14,
};

/**
 * The plan a product of a form starts from. Fruit in bags has no level and nothing to press down: its bag is looked at
 * by what the closure asks. Source: handbook 3.1.
 */
export const planFor = (form: Form): Check[] =>
  usualChecks(FIRST_TASTE[form]).filter(
    ({ what }) => form !== 'berries' || (what !== 'level' && what !== 'press' && what !== 'airlock'),
  );

/** Stands for a last day that nobody gave. */
export const NO_LAST_DAY = 800;

/** What has to be met before a lot can be called done; every part that is set counts. Source: handbook 3.5. */
export interface Doneness {
  readonly phAtMost: number | null;
  /** Two readings at least so many hours apart, within 0.1. */
  readonly stableHours: number | null;
  readonly acidAtLeast: number | null;
  readonly days: { readonly from: number; readonly to: number } | null;
  readonly colourThrough: boolean;
  readonly tasteSignOff: boolean;
  readonly gasQuietDays: number | null;
}

export function donenessWords(done: Doneness): string[] {
  return [
    done.phAtMost !== null &&
      `pH ${done.phAtMost} or lower${done.stableHours === null ? '' : `, and the same ${counted(done.stableHours, 'hour')} later`}`,
    done.acidAtLeast !== null && `titratable acidity ${done.acidAtLeast} % or more`,
    done.days !== null &&
      (done.days.to >= NO_LAST_DAY
        ? `on day ${done.days.from} or later`
        : done.days.from === done.days.to
          ? `on day ${done.days.from}`
          : `between day ${done.days.from} and day ${done.days.to}`),
    done.colourThrough && 'colour all the way through',
    done.tasteSignOff && 'taste signed off',
    done.gasQuietDays !== null && `gas quiet for ${counted(done.gasQuietDays, 'day')}`,
  ].filter((words): words is string => words !== false);
}
