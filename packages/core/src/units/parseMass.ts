import { accept, refuse, type Outcome } from '../refusal.js';
import { KITCHEN_UNITS, PLAIN_UNITS, unitKey, type Nationality } from './measures.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';

export interface ParseMassInput {
  readonly text: string;
  /** Unit of a bare number. */
  readonly defaultUnit: 'g' | 'kg';
  readonly decimalMark?: DecimalMark;
  /** g/mL. Without it a volume is refused: a spoon of a solid is not a mass. */
  readonly gramsPerMl?: number;
  readonly nationality?: Nationality;
  /** What is weighed, for the message. */
  readonly what?: string;
}

const PART = /(-?[\d.,\u00a0]*\d)\s*([a-z][a-z. ]*)?/gi;
/** One million grams: a tonne is more than any scale of such a house takes. */
export const ABSURD_GRAMS = 2_000_000;

/**
 * Grams from what a person types: "2 lb 3 oz", "1,5 kg", "850". A volume is accepted only with a density.
 * Source: handbook 2.8, 7.
 * @example parseMass({ text: '2 lb 3 oz', defaultUnit: 'g' }) //=> { ok: true, value: 992.233… }
 */
export function parseMass(input: ParseMassInput): Outcome<number> {
  const what = input.what ?? 'this';
  const text = input.text.trim();
  if (text === '') return refuse('quantity.unreadable', 'Nothing typed yet. Type a mass, such as 850 g or 1.25 kg.');
  let grams = 0;
  let rest = text;
  let parts = 0;
  for (const match of text.matchAll(PART)) {
    parts += 1;
    rest = rest.replace(match[0], '');
    const number = parseNumber({ text: match[1]!, decimalMark: input.decimalMark });
    if (!number.ok) return number;
    const unitText = (match[2] ?? '').trim();
    if (unitText === '' && parts > 1) return refuse('quantity.unreadable', `“${text}”: the second figure has no unit.`);
    const part = gramsOf(number.value, unitText === '' ? input.defaultUnit : unitText, input, what);
    if (!part.ok) return part;
    grams += part.value;
  }
  if (parts === 0 || rest.trim().replace(/[+,]/g, '') !== '') {
    return refuse('quantity.unreadable', `“${text}” is not a mass. Type figures and a unit, such as 850 g or 2 lb 3 oz.`);
  }
  return checkMass({ grams, what });
}

function gramsOf(amount: number, unitText: string, input: ParseMassInput, what: string): Outcome<number> {
  const key = unitKey(unitText);
  if (key === undefined) {
    return refuse('quantity.unknownUnit', `“${unitText}” is not a unit known here. Use g, kg, oz or lb.`, { facts: { unit: unitText } });
  }
  const plain = PLAIN_UNITS[key];
  if (plain?.measures === 'mass') return accept(amount * plain.inBase);
  const ml = plain ? amount * plain.inBase : kitchenMl(amount, key, input.nationality);
  if (ml === undefined) {
    return refuse('quantity.unknownUnit', `A ${unitText} differs from country to country. Say which, or weigh it.`);
  }
  if (input.gramsPerMl === undefined) {
    return refuse(
      'mass.volumeOfSolid',
      `${amount} ${unitText} is a volume; ${what} is weighed. Set the scale to grams: how much a spoon or millilitre of a solid weighs depends on its grain.`,
      { facts: { ml } },
    );
  }
  return accept(ml * input.gramsPerMl);
}

function kitchenMl(amount: number, key: string, nationality?: Nationality): number | undefined {
  const size = nationality && KITCHEN_UNITS[key]?.[nationality];
  return size === undefined ? undefined : amount * size;
}

/** Refuses a mass that is zero, negative, not finite, or beyond any scale of such a house. */
export function checkMass(input: { grams: number; what?: string; field?: string }): Outcome<number> {
  const { grams, field } = input;
  const what = input.what ?? 'A mass';
  if (!Number.isFinite(grams) || grams <= 0) {
    return refuse('mass.notPositive', `${grams} g was given for ${what}. A mass is more than zero; to take something out, record it as a loss or a correction.`, {
      field, facts: { grams },
    });
  }
  if (grams > ABSURD_GRAMS) {
    return refuse('mass.absurd', `${grams / 1000} kg was given for ${what}. Up to ${ABSURD_GRAMS / 1000} kg is accepted: look at the unit and the decimal mark.`, {
      field, facts: { grams, mostGrams: ABSURD_GRAMS },
    });
  }
  return accept(grams);
}
