/** Saturation of common salt in water, a fraction w/w. Source: handbook 2.8. */
export const SATURATED_SOLUTION = 0.26;

/** Water at 20 °C, g/mL: where the polynomial begins. */
export const WATER_GRAMS_PER_ML = 0.99821;

/**
 * Density of brine, g/mL. `strength` is salt per mass of brine (w/w, a fraction up to 0.26), `celsius` 0 to 40.
 * At 20 °C the polynomial fitted there is used, elsewhere the one in both. Source: handbook 8.4.
 * @throws {RangeError} a strength or temperature outside the fit
 * @example brineDensity({ strength: 0.04762 }) //=> 1.0323…
 */
export function brineDensity(input: { strength: number; celsius?: number }): number {
  const { strength, celsius = 20 } = input;
  if (!(strength >= 0 && strength <= SATURATED_SOLUTION + 1e-9))
    throw new RangeError(`a brine holds up to 26 % salt; ${strength} was given`);
  if (!(celsius >= 0 && celsius <= 40))
    throw new RangeError(`the density of brine is known from 0 to 40 °C; ${celsius} was given`);
  const w = strength * 100;
  if (celsius === 20) return WATER_GRAMS_PER_ML + 7.092277e-3 * w + 1.180166e-5 * w ** 2 + 3.748618e-7 * w ** 3;
  return inBoth(w, celsius);
}

const inBoth = (w: number, t: number): number =>
  waterDensity(t) +
  7.612349e-3 * w +
  3.94571e-6 * w ** 2 +
  3.769126e-7 * w ** 3 -
  3.179347e-5 * w * t +
  2.817658e-7 * w * t ** 2 +
  5.207873e-7 * w ** 2 * t -
  6.777916e-9 * w ** 2 * t ** 2 +
  8.15531e-10 * w * t ** 3;

const waterDensity = (t: number): number =>
  0.999842 + 6.607731e-5 * t - 8.689277e-6 * t ** 2 + 7.322455e-8 * t ** 3 - 4.102564e-10 * t ** 4;

/**
 * The strength whose density at a temperature is the one given: `brineDensity` the other way round.
 * @throws {RangeError} a density no brine has at that temperature
 * @example strengthFromDensity({ gramsPerMl: 1.0323 }) //=> 0.0476…
 */
export function strengthFromDensity(input: { gramsPerMl: number; celsius?: number }): number {
  const { gramsPerMl, celsius = 20 } = input;
  let low = 0;
  let high = SATURATED_SOLUTION;
  if (!(
    gramsPerMl >= brineDensity({ strength: low, celsius }) - 2e-4 &&
    gramsPerMl <= brineDensity({ strength: high, celsius }) + 2e-4
  )) {
    throw new RangeError(`no brine weighs ${gramsPerMl} g/mL at ${celsius} °C`);
  }
  // The density rises with the strength everywhere in the fit: halving finds the one.
  for (let i = 0; i < 48; i += 1) {
    const middle = (low + high) / 2;
    if (brineDensity({ strength: middle, celsius }) < gramsPerMl) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
