/**
 * Putting back a liquid that is gone, and what plain water would do instead. Overflow takes salt with it,
 * evaporation does not. Masses in grams, strengths as fractions of the water phase. Source: handbook 2.4.
 * @throws {RangeError} more lost than there is
 * @example topUp({ saltGrams: 572, waterGrams: 23920, lostGrams: 900, how: 'overflow' }) //=> { saltGrams: 21.0…, waterGrams: 879.0…, … }
 */
export function topUp(input: {
  saltGrams: number;
  waterGrams: number;
  lostGrams: number;
  how: 'overflow' | 'evaporation';
}): {
  saltGrams: number;
  waterGrams: number;
  before: number;
  withPlainWater: number;
} {
  const { saltGrams: s, waterGrams: w, lostGrams: lost, how } = input;
  const total = s + w;
  if (!(lost >= 0 && lost < total)) throw new RangeError('no more can be lost than there is');
  const before = s / total;
  if (how === 'evaporation') return { saltGrams: 0, waterGrams: lost, before, withPlainWater: before };
  const salt = before * lost;
  return { saltGrams: salt, waterGrams: lost - salt, before, withPlainWater: (s - salt) / total };
}
