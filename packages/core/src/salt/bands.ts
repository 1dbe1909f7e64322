/** House bands on water-phase salt, in order. `from` is inclusive, a fraction. Source: handbook 2.1. */
export const SALT_BANDS = [
  { band: 'weak', from: 0, words: 'Weak: a reviewer’s written reason, and pH on days 1, 2 and 3' },
  { band: 'caution', from: 0.015, words: 'Caution: pH on days 1, 2 and 3' },
  { band: 'usual', from: 0.018, words: 'Usual' },
  { band: 'slow', from: 0.04, words: 'Slow' },
  { band: 'stalls', from: 0.08, words: 'Stalls' },
] as const;

export type SaltBand = (typeof SALT_BANDS)[number]['band'];

/**
 * The band of a water-phase salt (fraction): `saltBand(0.0139) //=> 'weak'`. 4 % is still usual, 8 % still slow.
 * What is no number is told as weak: nobody has shown that it is not.
 */
export function saltBand(waterPhaseSalt: number): SaltBand {
  if (!(waterPhaseSalt >= 0.015)) return 'weak';
  if (waterPhaseSalt < 0.018) return 'caution';
  if (waterPhaseSalt <= 0.04) return 'usual';
  return waterPhaseSalt <= 0.08 ? 'slow' : 'stalls';
}
