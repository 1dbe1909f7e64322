import { isoDay } from './dayNumber.js';
import { offsetAt } from './localDay.js';
import { readDay } from './readDay.js';

/** A moment as it was understood, or why it was not. */
export type ReadMoment =
  { readonly at: number; readonly problem: null } | { readonly at: null; readonly problem: string };

const is = (at: number): ReadMoment => ({ at, problem: null });
const not = (problem: string): ReadMoment => ({ at: null, problem });

const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];
const UNDERSTOOD = '“17:40”, “yesterday 17:40”, “Mon 8:15”, “25 Nov 17:40” and “2 h ago” are understood.';
const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];
const WEEKDAY = /^(?:sun|mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|satur|sat)(?:day)?\.?$/;
/** A house's clock is believed this far ahead: a minute typed is a minute that may not be over. */
const AHEAD_MS = MINUTE;

/**
 * A moment of work as people write it, in the house's zone: "17:40" today, "yesterday 17:40", "Mon 5:40 pm",
 * "25 Nov 17.40", "half an hour ago", "now". One that is not yet, an hour that a clock change left out and one that it
 * repeated are asked about, never guessed.
 * @example readMoment({ text: 'yesterday 17:40', now: Date.parse('2026-11-26T08:00Z'), timeZone: 'Europe/Dublin' }).at
 * //=> Date.parse('2026-11-25T17:40Z')
 */
export function readMoment({ text, now, timeZone }: { text: string; now: number; timeZone: string }): ReadMoment {
  const given = text.trim();
  const said = given.toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ');
  if (said === 'now') return is(now);
  const ago = agoMs(said);
  if (ago !== null) return is(now - ago);
  const { rest, turn } = turnOf(said);
  const clock = clockOf(rest);
  if (!clock) return not(given === '' ? UNDERSTOOD : `“${given}” is no time of day. ${UNDERSTOOD}`);
  const day = dayOf(clock.before, { given, now, timeZone });
  if (day.problem !== null) return not(day.problem);
  const found = momentsOf(day.day, clock.minutes, timeZone);
  const wall = `${String(Math.floor(clock.minutes / 60)).padStart(2, '0')}:${String(clock.minutes % 60).padStart(2, '0')}`;
  if (found.length === 0)
    return not(`${wall} was left out on ${day.day}: the clock was put forward over it. Give the time it was then.`);
  if (found.length === 2 && turn === null)
    return not(`${wall} was there twice on ${day.day}: the clock was put back. Write “first” or “second” behind it.`);
  const at = found[turn === 'second' ? found.length - 1 : 0]!;
  if (at <= now + AHEAD_MS) return is(at);
  return not(
    clock.before === ''
      ? `${wall} is not yet today. Write “yesterday ${wall}” for the one before.`
      : `“${given}” is not yet. What happened is recorded, never what will.`,
  );
}

/** "2 h ago", "half an hour ago", "20 min ago", "3 days ago". */
function agoMs(said: string): number | null {
  const found =
    /^(half an|an?|\d+(?:\.\d+)?) ?(hours?|h|minutes?|mins?|min|m|days?|d)(?: (?:and )?(\d+) ?(?:minutes?|mins?|m))? ago$/.exec(
      said,
    );
  if (!found) return null;
  const many = found[1] === 'half an' ? 0.5 : /^an?$/.test(found[1]!) ? 1 : Number(found[1]);
  const unit = found[2]!.startsWith('h') ? HOUR : found[2]!.startsWith('d') ? DAY : MINUTE;
  return Math.round(many * unit) + Number(found[3] ?? 0) * MINUTE;
}

/** Which of two equal hours is meant. */
function turnOf(said: string): { rest: string; turn: 'first' | 'second' | null } {
  const found = /^(.*) (first|second)$/.exec(said);
  return found ? { rest: found[1]!, turn: found[2] as 'first' | 'second' } : { rest: said, turn: null };
}

/** The time of day at the end, and what stands before it. */
function clockOf(said: string): { before: string; minutes: number } | null {
  const found = /^(.*?)(?:^| )(?:at )?(\d{1,2})(?:[:.h](\d{2}))?(?: ?([ap])\.?m\.?)?$/.exec(said);
  if (!found) return null;
  const [, before, hours, minutes, half] = found;
  // "25 Nov 17" has no time: a bare number is one only with am or pm.
  if (minutes === undefined && half === undefined) return null;
  const hour = Number(hours);
  if (half !== undefined && (hour < 1 || hour > 12)) return null;
  const whole = half === undefined ? hour : (hour % 12) + (half === 'p' ? 12 : 0);
  if (whole > 23 || Number(minutes ?? 0) > 59) return null;
  return { before: before!.replace(/ at$/, '').trim(), minutes: whole * 60 + Number(minutes ?? 0) };
}

function dayOf(
  before: string,
  { given, now, timeZone }: { given: string; now: number; timeZone: string },
): { day: string; problem: null } | { day: null; problem: string } {
  const today = isoDay(now, timeZone);
  if (before === '') return { day: today, problem: null };
  const [first, ...others] = before.split(' ');
  if (others.length === 0 && WEEKDAY.test(first!)) {
    const noon = Date.parse(`${today}T12:00:00Z`);
    const wanted = WEEKDAYS.indexOf(first!.slice(0, 3));
    const back = (new Date(noon).getUTCDay() - wanted + 7) % 7;
    return { day: new Date(noon - back * DAY).toISOString().slice(0, 10), problem: null };
  }
  const read = readDay({ text: WEEKDAY.test(first!) ? others.join(' ') : before, today });
  return read.problem === null
    ? { day: lastOne(read.day, before, now), problem: null }
    : { day: null, problem: read.problem.replace(`“${before}”`, `“${given}”`) };
}

/** So far ahead a day without its year is a slip; one further ahead is last year's. */
const AHEAD_DAYS = 60;

/** What happened lies behind: a day without its year is the last such day. */
function lastOne(day: string, said: string, now: number): string {
  if (/\d{4}/.test(said) || Date.parse(`${day}T00:00:00Z`) - now < AHEAD_DAYS * DAY) return day;
  const before = `${Number(day.slice(0, 4)) - 1}${day.slice(4)}`;
  return new Date(Date.parse(`${before}T00:00:00Z`)).toISOString().startsWith(before) ? before : day;
}

/** The moments at which the house's clock showed this time of that day: one, none, or two where it was put back. */
function momentsOf(day: string, minutes: number, timeZone: string): number[] {
  const wall = Date.parse(`${day}T00:00:00Z`) + minutes * MINUTE;
  const offsets = new Set([-DAY, 0, DAY].map((apart) => offsetAt(wall + apart, timeZone)));
  return [...offsets]
    .map((offset) => wall - offset)
    .filter((at) => at + offsetAt(at, timeZone) === wall)
    .sort((a, b) => a - b);
}
