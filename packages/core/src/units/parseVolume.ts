import { accept, refuse, type Outcome } from '../refusal.js';
import { readAmount } from './readAmount.js';
import { spreadWords, type Nationality } from './measures.js';
import type { DecimalMark } from './parseNumber.js';

/**
 * Millilitres from what a person types: "15 L", "3 qt", "¾ cup". A kitchen measure without a nationality is
 * refused with its spread; a mass is refused, because a litre is not always a kilogram.
 * @example parseVolume({ text: '1.5 L', defaultUnit: 'mL' }) //=> { ok: true, value: 1500 }
 */
export function parseVolume(input: {
  text: string;
  defaultUnit: 'mL' | 'L';
  nationality?: Nationality | null;
  decimalMark?: DecimalMark;
  what?: string;
}): Outcome<number> {
  const amount = readAmount({ ...input, defaultUnit: input.defaultUnit });
  if (!amount.ok) return amount;
  const { measures, least, most, unit } = amount.value;
  if (measures !== 'volume')
    return refuse(
      'quantity.unknownUnit',
      `“${input.text.trim()}” is not a volume. ${input.what ?? 'This'} is measured in mL, L, or a kitchen measure.`,
    );
  if (most - least > 1e-6)
    return refuse('quantity.spread', `${spreadWords(unit)} Say which country’s it is, or type millilitres.`, {
      facts: { leastMl: least, mostMl: most },
    });
  return accept(least);
}
