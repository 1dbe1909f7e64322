import { dayWords, isRecordableDay, utcOf } from './bounds.js';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const NAMES =
  /^(?:jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)$/;
const WORDS: ReadonlyMap<string, number> = new Map([
  ['today', 0],
  ['yesterday', -1],
  ['tomorrow', 1],
]);
const DAY_MS = 86_400_000;

/** A day as it was understood, "2026-11-29", or why it was not. */
export type ReadDay =
  { readonly day: string; readonly problem: null } | { readonly day: null; readonly problem: string };

const is = (day: string): ReadDay => ({ day, problem: null });
const not = (problem: string): ReadDay => ({ day: null, problem });

/**
 * A calendar day as people type it: "29 Nov 2026", "29.11.2026", "29/11", "Nov 29", "2026-11-29", "yesterday". Without
 * its year it is the nearest such day. What could be two days is asked about, never guessed.
 * @example readDay({ text: '3/4/2026', today: '2026-11-26' }).problem //=> '“3/4/2026” can be 3 Apr or 4 Mar …'
 */
export function readDay({ text, today }: { text: string; today: string }): ReadDay {
  const said = text.trim().toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ');
  const word = WORDS.get(said);
  if (word !== undefined) return is(isoOf(Date.parse(`${today}T00:00:00Z`) + word * DAY_MS));
  const iso = /^(\d+)-(\d{1,2})-(\d{1,2})$/.exec(said);
  if (iso) return whole(text, Number(iso[3]), Number(iso[2]), iso[1]!, today);
  const named =
    /^(?:[a-z]{2,9} )??(\d{1,2})(?:st|nd|rd|th)?\.? ?([a-z]{3,9})\.?(?: (\d+))?$/.exec(said) ??
    swapped(/^([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?(?: (\d+))?$/.exec(said));
  if (named && NAMES.test(named[2]!)) {
    return whole(text, Number(named[1]), MONTHS.indexOf(named[2]!.slice(0, 3)) + 1, named[3], today);
  }
  const dotted = /^(\d{1,2})\. ?(\d{1,2})\.? ?(\d+)?$/.exec(said);
  if (dotted) return whole(text, Number(dotted[1]), Number(dotted[2]), dotted[3], today);
  const slashed = /^(\d{1,2})\/(\d{1,2})(?:\/(\d+))?$/.exec(said);
  if (slashed) {
    const [one, two] = [Number(slashed[1]), Number(slashed[2])];
    if (one > 0 && two > 0 && one <= 12 && two <= 12 && one !== two)
      return not(
        `“${text.trim()}” can be ${one} ${monthWord(two)} or ${two} ${monthWord(one)}. Write the month as a word, such as ${one} ${monthWord(two)}.`,
      );
    return two > 12 ? whole(text, two, one, slashed[3], today) : whole(text, one, two, slashed[3], today);
  }
  return not(`“${text.trim()}” is no day. “29 Nov 2026”, “29.11.2026”, “2026-11-29” and “yesterday” are understood.`);
}

const swapped = (found: RegExpExecArray | null): readonly (string | undefined)[] | null =>
  found && [found[0], found[2], found[1], found[3]];

const monthWord = (month: number): string => {
  const name = MONTHS[month - 1]!;
  return name.charAt(0).toUpperCase() + name.slice(1);
};

const isoOf = (at: number): string => new Date(at).toISOString().slice(0, 10);

function whole(text: string, day: number, month: number, year: string | undefined, today: string): ReadDay {
  const given = text.trim();
  if (year !== undefined && year.length !== 4) return not(`${dayWords(given)}.`);
  const of = (wanted: number): string | null => {
    const at = utcOf(wanted, month, day);
    const made = new Date(at);
    return made.getUTCMonth() + 1 === month && made.getUTCDate() === day ? isoOf(at) : null;
  };
  if (year !== undefined) {
    const made = of(Number(year));
    if (made === null) return not(`“${given}” is no day of the calendar.`);
    return isRecordableDay(made) ? is(made) : not(`${dayWords(given)}.`);
  }
  const now = Date.parse(`${today}T00:00:00Z`);
  const near = [-1, 0, 1]
    .map((more) => of(Number(today.slice(0, 4)) + more))
    .filter((made) => made !== null)
    .sort((a, b) => Math.abs(Date.parse(a) - now) - Math.abs(Date.parse(b) - now));
  return near[0] === undefined ? not(`“${given}” is no day of the calendar.`) : is(near[0]);
}
