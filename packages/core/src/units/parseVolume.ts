import { accept, refuse, type Outcome } from '../refusal.js';
import { readAmount } from './readAmount.js';
import { KITCHEN_NAMES, unitKey, type Nationality } from './measures.js';
import type { DecimalMark } from './parseNumber.js';

/**
 * Millilitres from what a person types: "15 L", "3 qt", "¾ cup". A kitchen measure without a nationality is
 * refused with its spread; a mass is refused, because a litre is not always a kilogram.
 * @example parseVolume({ text: '1.5 L', defaultUnit: 'mL' }) //=> { ok: true, value: 1500 }
 */
export function parseVolume(input: { text: string; defaultUnit: 'mL' | 'L'; nationality?: Nationality | null; decimalMark?: DecimalMark; what?: string }): Outcome<number> {
  const bare = /^[\d.,\s¼½¾⅓⅔⅛/]+$/.test(input.text.trim());
  const amount = readAmount({ ...input, text: bare ? `${input.text.trim()} ${input.defaultUnit}` : input.text });
  if (!amount.ok) return amount;
  const { measures, least, most, unit } = amount.value;
  if (measures !== 'volume') return refuse('quantity.unknownUnit', `“${input.text.trim()}” is not a volume. ${input.what ?? 'This'} is measured in mL, L, or a kitchen measure.`);
  if (most - least > 1e-6) {
    return refuse('quantity.spread', `A ${KITCHEN_NAMES[unitKey(unit) ?? ''] ?? unit} is ${trim(least / amount.value.count)} to ${trim(most / amount.value.count)} mL, by country. Say which country’s it is, or type millilitres.`, { facts: { leastMl: least, mostMl: most } });
  }
  return least > 0 ? accept(least) : refuse('mass.notPositive', `${input.text.trim()} was given. A volume is more than zero.`);
}

const trim = (ml: number): string => String(Math.round(ml * 10) / 10);
