import { accept, refuse, type Outcome } from '../refusal.js';
import { KITCHEN_UNITS, NATIONALITIES, PLAIN_UNITS, unitKey, type Nationality } from './measures.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';

/** An amount as a recipe writes it. Mass in grams, volume in mL, pieces as a count. */
export interface Amount {
  readonly measures: 'mass' | 'volume' | 'pieces';
  readonly count: number;
  /** The unit or the name of the piece, as written. */
  readonly unit: string;
  /** Volumes of unknown nationality lie between the two. */
  readonly least: number;
  readonly most: number;
  /** Words after the amount: "500 g turnips, peeled" leaves "turnips, peeled". */
  readonly rest: string;
}

const FRACTIONS: Readonly<Record<string, number>> = { '¼': 0.25, '½': 0.5, '¾': 0.75, '⅓': 1 / 3, '⅔': 2 / 3, '⅛': 0.125, '⅜': 0.375, '⅝': 0.625, '⅞': 0.875 };
const NUMBER = String.raw`(?:-?\d[\d.,\u00a0]*\s+\d+\/\d+|-?\d+\/\d+|-?\d[\d.,\u00a0]*\s*[¼½¾⅓⅔⅛⅜⅝⅞]?|[¼½¾⅓⅔⅛⅜⅝⅞])`;
const AMOUNT = new RegExp(String.raw`^(${NUMBER})(?:\s*(?:-|–|to|or)\s*(${NUMBER}))?\s*(.*)$`, 'is');
const PIECES = /^(pieces?|cloves?|leaf|leaves|sprigs?|heads?|bulbs?|berries|pods?|stalks?|slices?|bay|corns?|peppercorns?)\b/i;

/**
 * An amount out of a recipe, with nothing invented: "¾ cup", "1 1/2 qt", "500 g turnips", "12 cloves".
 * A range, "a handful" and an amount without unit are refused, so that they stay holes. Source: handbook 2.5, 7.
 * @example readAmount({ text: '3 quarts', nationality: 'us' }) //=> { ok: true, value: { measures: 'volume', least: 2839.059, … } }
 */
export function readAmount(input: { text: string; nationality?: Nationality | null; decimalMark?: DecimalMark }): Outcome<Amount> {
  const text = input.text.trim();
  const match = AMOUNT.exec(text);
  if (!match) return refuse('quantity.unreadable', text === '' ? 'No amount is given.' : `“${text}” names no figure. It stays open until somebody weighs it: type grams.`);
  const number = figure(match[1]!, input.decimalMark);
  if (!number.ok) return number;
  if (number.value <= 0) return refuse('mass.notPositive', `“${text}”: an amount is more than zero.`);
  if (match[2] !== undefined) return refuse('quantity.range', `“${text}” is a range. A batch needs one figure: weigh it once and type the grams.`);
  const count = number.value;
  const tail = match[3]!.trim();
  const words = /^(fl\.? ?oz|[a-z]+)\.?\b\s*(?:of\s+)?(.*)$/is.exec(tail);
  const key = words ? unitKey(words[1]!.replace(/\s+/g, ' ')) : undefined;
  const rest = key ? words![2]! : '';
  if (key === undefined) {
    if (PIECES.test(tail)) return accept({ measures: 'pieces', count, unit: PIECES.exec(tail)![1]!.toLowerCase(), least: count, most: count, rest: tail.replace(PIECES, '').replace(/^\s*of\s+/i, '').trim() });
    return refuse('quantity.unitMissing', tail === '' ? `“${text}” has no unit. Type g, kg, mL, L or a kitchen measure after it.` : `“${text}” has no unit known here. Use g, kg, oz, lb, mL, L, a kitchen measure, or pieces.`, { facts: { count, tail } });
  }
  const plain = PLAIN_UNITS[key];
  if (plain) return accept({ measures: plain.measures, count, unit: words![1]!, least: count * plain.inBase, most: count * plain.inBase, rest });
  const sizes = (input.nationality ? [input.nationality] : NATIONALITIES).map((nation) => KITCHEN_UNITS[key]![nation]).filter((ml): ml is number => ml !== undefined);
  if (sizes.length === 0) return refuse('quantity.unknownUnit', `No ${input.nationality} ${words![1]!} exists. Say which country’s it is.`);
  return accept({ measures: 'volume', count, unit: words![1]!, least: count * Math.min(...sizes), most: count * Math.max(...sizes), rest });
}

function figure(text: string, decimalMark?: DecimalMark): Outcome<number> {
  const fraction = /^(-?\d[\d.,\u00a0]*)?\s*(?:(\d+)\/(\d+)|([¼½¾⅓⅔⅛⅜⅝⅞]))$/.exec(text.trim());
  // "1/2" is read by its last two groups: the greedy first one must not swallow its numerator.
  const simple = /^(-?\d+)\/(\d+)$/.exec(text.trim());
  if (simple) return Number(simple[2]) === 0 ? refuse('quantity.unreadable', `“${text}” divides by nought.`) : accept(Number(simple[1]) / Number(simple[2]));
  if (!fraction) return parseNumber({ text: text.trim(), decimalMark });
  const whole = fraction[1] ? parseNumber({ text: fraction[1], decimalMark }) : accept(0);
  if (!whole.ok) return whole;
  return accept(whole.value + (fraction[4] ? FRACTIONS[fraction[4]]! : Number(fraction[2]) / Number(fraction[3])));
}
