/**
 * Grams as the trade writes them: grams under 10 kg at the scale's step, kilograms above.
 * @example formatGrams(31400) //=> '31.40 kg'
 */
export function formatGrams(grams: number, options: { stepGrams?: number } = {}): string {
  const { value, unit } = splitGrams(grams, options);
  return `${value} ${unit}`;
}

/** The figure and the unit apart, for aligned columns. */
export function splitGrams(grams: number, options: { stepGrams?: number } = {}): { value: string; unit: 'g' | 'kg' } {
  // A tonne has no hundredths that nobody weighed.
  if (Math.abs(grams) >= 1_000_000) return { value: group(String(Number((grams / 1000).toFixed(2)))), unit: 'kg' };
  if (Math.abs(grams) >= 10_000) return { value: group((grams / 1000).toFixed(2)), unit: 'kg' };
  const step = options.stepGrams ?? (grams !== 0 && Math.abs(grams) < 10 ? 0.1 : 1);
  const decimals = step >= 1 ? 0 : Math.min(3, Math.ceil(-Math.log10(step)));
  const rounded = Math.round(grams / step) * step;
  return { value: group((Object.is(rounded, -0) ? 0 : rounded).toFixed(decimals)), unit: 'g' };
}

const group = (digits: string): string => digits.replace(/\B(?=(\d{3})+(?!\d))/g, ',');

/** A fraction as per cent: `formatPercent(0.0234) //=> '2.34 %'`. */
export function formatPercent(fraction: number, decimals = 2): string {
  return `${(fraction * 100).toFixed(decimals)} %`;
}
