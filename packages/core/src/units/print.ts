import type { DecimalMark } from './parseNumber.js';

/**
 * A figure as it is put into a field: no thousands marks, the house's decimal mark, so that what a field shows is read
 * again as the same figure: parse(print(x)) = x.
 * @example printNumber(1.5, 'comma') //=> '1,5'
 */
export function printNumber(value: number, mark: DecimalMark = 'point'): string {
  const text = decimal(value);
  return mark === 'comma' ? text.replace('.', ',') : text;
}

/** A mass for a field, with its unit: `printMass({ grams: 1250, unit: 'kg', mark: 'comma' }) //=> '1,25 kg'`. */
export const printMass = (input: { grams: number; unit: 'g' | 'kg'; mark?: DecimalMark }): string =>
  `${printNumber(input.unit === 'kg' ? input.grams / 1000 : input.grams, input.mark)} ${input.unit}`;

/** Without an exponent. */
const decimal = (value: number): string =>
  Math.abs(value) >= 1e-6 && Math.abs(value) < 1e21 ? String(value) : value.toFixed(20).replace(/\.?0+$/, '');

/** `1 day`, `3 days`: a count with its word. */
export const counted = (many: number, what: string): string => `${many} ${what}${many === 1 ? '' : 's'}`;
