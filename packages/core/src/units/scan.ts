import { accept, refuse, type Outcome } from '../refusal.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';

const FRACTIONS: Readonly<Record<string, number>> = {
  '¼': 0.25,
  '½': 0.5,
  '¾': 0.75,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
  '⅛': 0.125,
  '⅜': 0.375,
  '⅝': 0.625,
  '⅞': 0.875,
};
const MARK = '[¼½¾⅓⅔⅛⅜⅝⅞]';
const SLASHED = /([-−]?\d+)\s*[/⁄]\s*(\d+)/y;
const MIXED = /([-−]?\d+)\s+(\d+)\s*[/⁄]\s*(\d+)/y;
const MARKED = new RegExp(`([-−]?\\d[\\d.,]*)?\\s*(${MARK})`, 'y');
const GROUPED = /[-−]?\d{1,3}(?:[ \u00a0\u2009\u202f'’]\d{3}(?!\d))+(?:[.,]\d+)?/y;
const PLAIN = /[-−]?(?:\d[\d.,]*\d|\d|[.,]\d+)/y;

export interface ScannedNumber {
  readonly value: number;
  readonly end: number;
}

/** The figure that stands at a place of a text: whole, grouped, a fraction, or both. Null where none stands. */
export function scanNumber(text: string, at: number, decimalMark?: DecimalMark): Outcome<ScannedNumber> | null {
  const start = afterBlanks(text, at);
  const mixed = match(MIXED, text, start);
  if (mixed) return fraction(mixed[0], Number(mixed[1]!.replace('−', '-')), Number(mixed[2]), Number(mixed[3]), start);
  const slashed = match(SLASHED, text, start);
  if (slashed) return fraction(slashed[0], 0, Number(slashed[1]!.replace('−', '-')), Number(slashed[2]), start);
  const marked = match(MARKED, text, start);
  if (marked) {
    const whole = marked[1] ? parseNumber({ text: marked[1], decimalMark }) : accept(0);
    return whole.ok ? accept({ value: whole.value + FRACTIONS[marked[2]!]!, end: start + marked[0].length }) : whole;
  }
  const figure = match(GROUPED, text, start) ?? match(PLAIN, text, start);
  if (!figure) return null;
  const number = parseNumber({ text: figure[0], decimalMark });
  return number.ok ? accept({ value: number.value, end: start + figure[0].length }) : number;
}

/** "2 1/2": the second part is less than one, and nothing is divided by nought. */
function fraction(text: string, whole: number, above: number, below: number, start: number): Outcome<ScannedNumber> {
  if (below === 0) return refuse('quantity.unreadable', `“${text}” divides by zero.`);
  if (whole !== 0 && above >= below)
    return refuse('quantity.unreadable', `“${text}”: the part after the whole number is less than one, such as 1 1/2.`);
  return accept({ value: whole < 0 ? whole - above / below : whole + above / below, end: start + text.length });
}

/** The word of a unit at a place, its closing point with it; a fluid ounce is one unit of two words. */
export function scanUnit(text: string, at: number): { readonly word: string; readonly end: number } | null {
  const start = afterBlanks(text, at) + (/^-(?=\p{L})/u.test(text.slice(afterBlanks(text, at))) ? 1 : 0);
  const fluid = match(/(fl)\.?\s*(oz)(?![\p{L}])\.?/iuy, text, start);
  if (fluid) return { word: 'fl oz', end: start + fluid[0].length };
  const word = match(/(\p{L}+)\.?/uy, text, start);
  return word ? { word: word[1]!, end: start + word[0].length } : null;
}

/** "- 500", "to 1 kg", "or 3": the second end of a range, where one stands here. */
export function scanRange(text: string, at: number, decimalMark?: DecimalMark): { readonly end: number } | null {
  const start = afterBlanks(text, at);
  const word = match(/(?:-|–|—|−|\.\.\.?|…|\bto\b|\bor\b|\bbis\b)\s*(?=[\d.,¼½¾⅓⅔⅛⅜⅝⅞])/iy, text, start);
  if (!word) return null;
  const number = scanNumber(text, start + word[0].length, decimalMark);
  return { end: number?.ok ? number.value.end : start + word[0].length };
}

/** What may stand between two amounts that are added; `said` where it is said, not only written side by side. */
export function scanSum(text: string, at: number): { readonly end: number; readonly said: boolean } {
  const start = afterBlanks(text, at);
  const word = match(/(?:\+|&|\bplus\b|\band\b)\s*/iy, text, start);
  if (word) return { end: start + word[0].length, said: true };
  const comma = match(/,\s+/y, text, start);
  return { end: comma ? start + comma[0].length : start, said: false };
}

function match(pattern: RegExp, text: string, at: number): RegExpExecArray | null {
  pattern.lastIndex = at;
  return pattern.exec(text);
}

function afterBlanks(text: string, at: number): number {
  let end = at;
  while (/\s/.test(text[end] ?? '')) end += 1;
  return end;
}
