/** Grams of lactic acid per milliequivalent. Source: handbook 3.2. */
const LACTIC = 0.09008;

/**
 * Titratable acidity as % lactic acid: mL × N × 0.09008 × 100 / g of sample, to pH 8.2.
 * @throws {RangeError} a volume, strength or mass that is not positive
 * @example titratableAcidity({ millilitres: 8.6, normality: 0.1, sampleGrams: 10 }) //=> 0.774…
 */
export function titratableAcidity(input: { millilitres: number; normality: number; sampleGrams: number }): number {
  const { millilitres, normality, sampleGrams } = input;
  if (!(millilitres > 0 && normality > 0 && sampleGrams > 0))
    throw new RangeError('volume, strength and mass are positive');
  return (millilitres * normality * LACTIC * 100) / sampleGrams;
}
