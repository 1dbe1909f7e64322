import { accept, refuse, type Outcome } from '../refusal.js';
import { KITCHEN_NAMES, unitKey, type Nationality } from './measures.js';
import type { DecimalMark } from './parseNumber.js';
import { readAmount } from './readAmount.js';
import { scanNumber } from './scan.js';

export interface ParseMassInput {
  readonly text: string;
  /** Unit of a bare number. */
  readonly defaultUnit: 'g' | 'kg';
  readonly decimalMark?: DecimalMark;
  /** g/mL. Without it a volume is refused: a spoon of a solid is not a mass. */
  readonly gramsPerMl?: number;
  readonly nationality?: Nationality | null | undefined;
  /** What is weighed, for the message. */
  readonly what?: string;
}

/** One million grams: a tonne is more than any scale of such a house takes. */
export const ABSURD_GRAMS = 2_000_000;

/**
 * Grams from what a person types: "2 lb 3 oz", "1,5 kg", "12 500 g", "850". A volume is accepted only with a density.
 * Source: handbook 2.8, 7.
 * @example parseMass({ text: '2 lb 3 oz', defaultUnit: 'g' }) //=> { ok: true, value: 992.233… }
 */
export function parseMass(input: ParseMassInput): Outcome<number> {
  const what = input.what ?? 'this';
  const text = input.text.trim();
  if (text === '') return refuse('quantity.unreadable', 'Nothing typed yet. Type a mass, such as 850 g or 1.25 kg.');
  if (!scanNumber(text, 0))
    return refuse(
      'quantity.unreadable',
      `“${text}” is not a mass. Type figures and a unit, such as 850 g or 2 lb 3 oz.`,
    );
  const amount = readAmount({
    text,
    defaultUnit: input.defaultUnit,
    decimalMark: input.decimalMark,
    nationality: input.nationality,
  });
  if (!amount.ok) return amount;
  const { measures, least, most, unit } = amount.value;
  if (measures === 'mass') return checkMass({ grams: least, what });
  if (measures === 'pieces')
    return refuse('quantity.unreadable', `“${text}” is a count; ${what} is weighed. Type grams.`);
  if (input.gramsPerMl === undefined) {
    return refuse(
      'mass.volumeOfSolid',
      `“${text}” is a volume; ${what} is weighed. Set the scale to grams: how much a spoon or millilitre of a solid weighs depends on its grain.`,
      { facts: { ml: least } },
    );
  }
  if (most - least > 1e-6)
    return refuse(
      'quantity.spread',
      `A ${KITCHEN_NAMES[unitKey(unit) ?? ''] ?? unit} differs from country to country. Say which, or weigh it.`,
    );
  return checkMass({ grams: least * input.gramsPerMl, what });
}

/** Refuses a mass that is zero (unless nothing may be left), negative, not finite, or beyond any scale of such a house. */
export function checkMass(input: { grams: number; what?: string; field?: string; zero?: true }): Outcome<number> {
  const { grams, field } = input;
  const what = input.what ?? 'A mass';
  if (!Number.isFinite(grams) || grams < 0 || (grams === 0 && !input.zero)) {
    return refuse(
      'mass.notPositive',
      `${grams} g was given for ${what}. A mass is ${input.zero ? 'not below zero' : 'more than zero'}; to take something out, record it as a loss or a correction.`,
      {
        field,
        facts: { grams },
      },
    );
  }
  if (grams > ABSURD_GRAMS) {
    return refuse(
      'mass.absurd',
      `${grams / 1000} kg was given for ${what}. Up to ${ABSURD_GRAMS / 1000} kg is accepted: look at the unit and the decimal mark.`,
      {
        field,
        facts: { grams, mostGrams: ABSURD_GRAMS },
      },
    );
  }
  return accept(grams);
}
