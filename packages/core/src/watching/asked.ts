import { usualChecks, type AskedCheck, type Check, type CheckKind } from '../formula/index.js';
import { saltBand } from '../salt/bands.js';
import { shortened } from '../typing/index.js';

/** What decides, beside its plan, what a vessel is asked. */
export interface AskedBy {
  readonly closure: string;
  /** Salt in its water phase; null where nobody knows. */
  readonly waterPhaseSalt: number | null;
  /** What the house's riskier ways ask in exchange. */
  readonly houseAsks: readonly Check[];
  /** Day on which a film was last found and skimmed; null when none was. */
  readonly filmDay: number | null;
  /** Of the window of its formula that applies: when it is first tasted, and when it goes to the cold. */
  readonly tasteDay?: number | null;
  readonly coldDay?: number | null;
  /** Findings of "Watch" and "Act" on it: what each asks to be done, and when it is looked at again. */
  readonly findings?: readonly AskedFinding[];
}

export interface AskedFinding {
  readonly name: string;
  readonly todo: readonly string[];
  readonly day: number;
  /** Null: it has its own second look. */
  readonly againDay: number | null;
}

/** Check words are kept short: a round is read walking. */
const SHORT = 80;
const short = (words: string): string => shortened(words, SHORT);
export const againWords = (name: string): string => short(`Look again: ${name}`);

const TO_THE_COLD = 'To the cold';

const onDays = (what: CheckKind, days: number[], words: string | null = null): AskedCheck => ({
  what,
  words,
  rule: { kind: 'onDays', days, thenEveryDays: null },
  condition: 'always',
});

/**
 * The plan of a vessel with all that its state asks in exchange: weak salt its pH on days 1, 2 and 3, a bag its daily
 * look, a sealed lid its burps, a skimmed film its second look, the house's riskier ways what they ask. What the plan
 * has already is not asked twice. Source: handbook 2.1, 3.1.
 */
export function askedPlan(plan: readonly Check[], by: AskedBy): AskedCheck[] {
  const wanted: AskedCheck[] = [];
  const band = by.waterPhaseSalt === null ? null : saltBand(by.waterPhaseSalt);
  if (band === 'weak' || band === 'caution') wanted.push(onDays('ph', [1, 2, 3]));
  if (by.closure === 'vacuum')
    wanted.push({
      what: 'swelling',
      words: null,
      rule: { kind: 'every', hours: 24, forDays: null },
      condition: 'always',
    });
  if (by.closure === 'sealed') wanted.push(...usualChecks(14).filter(({ what }) => what === 'burp'));
  if (by.filmDay !== null) wanted.push(onDays('look', [by.filmDay + 3], 'where the film was'));
  if (by.tasteDay != null) wanted.push(onDays('taste', [by.tasteDay]));
  if (by.coldDay != null) wanted.push(onDays('todo', [by.coldDay], TO_THE_COLD));
  for (const { name, todo, day, againDay } of by.findings ?? []) {
    wanted.push(
      ...todo.map((words) => onDays('todo', [day], short(words))),
      ...(againDay === null ? [] : [onDays('todo', [againDay], againWords(name))]),
    );
  }
  return [...wanted, ...by.houseAsks].reduce<AskedCheck[]>(withAtLeast, [...plan]);
}

/** A plan that asks a check at least as often as wanted. */
function withAtLeast(plan: AskedCheck[], wanted: AskedCheck): AskedCheck[] {
  const same = plan.findIndex(
    (check) =>
      check.what === wanted.what &&
      check.words === wanted.words &&
      (check.condition === 'always' || check.condition === wanted.condition),
  );
  const own = plan[same];
  if (!own) return [...plan, wanted];
  if (own.rule.kind === 'onDays' && wanted.rule.kind === 'onDays') {
    const days = [...new Set([...own.rule.days, ...wanted.rule.days])].sort((a, b) => a - b);
    return plan.with(same, { ...own, rule: { ...own.rule, days } });
  }
  if (own.rule.kind === 'every' && wanted.rule.kind === 'every') {
    const everAfter = own.rule.forDays === null;
    return plan.with(same, {
      ...own,
      rule: {
        ...own.rule,
        hours: Math.min(own.rule.hours, wanted.rule.hours),
        forDays: everAfter ? null : wanted.rule.forDays,
      },
    });
  }
  if (own.rule.kind === 'untilQuiet') return plan;
  // An interval of a day or less covers single days; single days do not cover an interval.
  const covers = own.rule.kind === 'every' && own.rule.hours <= 24 && own.rule.forDays === null;
  return covers
    ? plan
    : plan
        .with(same, wanted.rule.kind === 'every' ? wanted : own)
        .concat(wanted.rule.kind === 'every' ? [] : [{ ...wanted, words: wanted.words ?? 'asked in exchange' }]);
}
