import { readMoment } from '../calendar/index.js';
import type { Outcome } from '../refusal.js';
import type { DecimalMark } from '../units/index.js';
import { parsePh, parseTemperature } from '../units/index.js';

/** A line of a notebook: a moment with its pH, its temperature, or both. */
export interface PastReading {
  /** Its line in what was pasted or chosen, from 1. */
  readonly line: number;
  readonly said: string;
  readonly at: number | null;
  readonly ph: number | null;
  readonly celsius: number | null;
  /** What is to be mended in it; none: it can be recorded. */
  readonly errors: readonly string[];
}

type Column = 'day' | 'time' | 'when' | 'ph' | 'celsius' | 'fahrenheit';

const NAMES: readonly (readonly [Column, RegExp])[] = [
  ['ph', /^ph\b/i],
  ['fahrenheit', /°\s*f\b|fahrenheit|^f$/i],
  ['celsius', /°\s*c\b|celsius|temp|^c$|grad/i],
  ['when', /when|moment|date.*time/i],
  ['time', /time|clock|hour|uhr/i],
  ['day', /day|date|datum|jour/i],
];

/**
 * Readings as a notebook or a sheet has them, a line each: day and time in one column or two, pH, temperature. With a
 * first line of names in any order; without one the moment comes first, then pH, then °C. Each line is understood or
 * says what is to be mended; none is guessed.
 * @param from when the vessel was filled, in ms: nothing was read of it before
 */
export function readReadings(input: {
  rows: readonly (readonly string[])[];
  now: number;
  from: number;
  timeZone: string;
  decimalMark?: DecimalMark;
}): PastReading[] {
  const rows = input.rows.map((cells) => cells.map((cell) => cell.trim()));
  const named = columnsOf(rows[0] ?? []);
  const seen = new Map<string, number>();
  return rows.flatMap((cells, index) => {
    if ((index === 0 && named) || cells.every((cell) => cell === '')) return [];
    const read = readLine(cells, named ?? usualColumns(cells, input), input);
    const errors = [...read.errors];
    if (read.at !== null) {
      const key = `${read.at}`;
      const before = seen.get(key);
      if (before !== undefined) errors.push(`Line ${before} is of the same minute.`);
      else seen.set(key, index + 1);
    }
    return [{ ...read, errors, line: index + 1, said: cells.filter((cell) => cell !== '').join(', ') }];
  });
}

/** What the first line names; null when it is a reading itself. */
function columnsOf(head: readonly string[]): Column[] | null {
  const found = head.map((cell) => NAMES.find(([, pattern]) => pattern.test(cell))?.[0] ?? null);
  return found.some((one) => one === 'ph' || one === 'celsius' || one === 'fahrenheit') &&
    !head.some((cell) => /^\d+[.,]?\d*$/.test(cell))
    ? found.map((one) => one ?? 'day')
    : null;
}

/**
 * A time of its own in the second column, or day and time in one. A pH looks like a time ("3.55"): where the first column
 * says the moment by itself, it is none.
 */
function usualColumns(cells: readonly string[], input: { now: number; timeZone: string }): Column[] {
  const isMoment = readMoment({ text: cells[0] ?? '', now: input.now, timeZone: input.timeZone }).problem === null;
  return !isMoment && /^\d{1,2}([:.h]\d{2}|(:\d{2})? ?[ap]m)$/i.test(cells[1] ?? '')
    ? ['day', 'time', 'ph', 'celsius']
    : ['when', 'ph', 'celsius'];
}

function readLine(
  cells: readonly string[],
  columns: readonly Column[],
  input: { now: number; from: number; timeZone: string; decimalMark?: DecimalMark },
): Omit<PastReading, 'line' | 'said'> {
  const of = (column: Column): string =>
    columns
      .flatMap((one, i) => (one === column ? [cells[i] ?? ''] : []))
      .join(' ')
      .trim();
  const errors: string[] = [];
  const moment = [of('when'), of('day'), of('time')].filter((part) => part !== '').join(' ');
  const when = readMoment({ text: moment, now: input.now, timeZone: input.timeZone });
  if (moment === '') errors.push('Its day and time are missing.');
  else if (when.problem !== null) errors.push(when.problem);
  else if (when.at < input.from) errors.push('It is before the vessel was filled.');
  const figure = <T>(text: string, read: (text: string) => Outcome<T>): T | null => {
    if (text === '' || text === '-' || text === '–') return null;
    const outcome = read(text);
    if (outcome.ok) return outcome.value;
    errors.push(`${outcome.refusal.message}.`.replace(/\.\.$/, '.'));
    return null;
  };
  const ph = figure(of('ph'), (text) => parsePh({ text: text.replace(/^ph\s*/i, ''), decimalMark: input.decimalMark }));
  const fahrenheit = of('fahrenheit');
  const celsius = figure(fahrenheit === '' ? of('celsius') : `${fahrenheit.replace(/\s*°?\s*F$/i, '')} F`, (text) =>
    parseTemperature({ text, decimalMark: input.decimalMark }),
  );
  if (ph === null && celsius === null && errors.length === 0) errors.push('It has neither a pH nor a temperature.');
  return { at: when.at, ph, celsius, errors };
}
