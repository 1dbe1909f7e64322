import { brineDensity, strengthFromDensity } from './density.js';

/**
 * What a hydrometer or salinity spindle really says when the brine is not at the temperature it was made for.
 * `readStrength` is what it shows (fraction w/w). The glass swells with warmth (2.5e-5 per °C).
 * Source: handbook 8.4, worked case W23.
 * @throws {RangeError} a temperature outside 0 to 40 °C, or a density no brine has there
 * @example hydrometerStrength({ readStrength: 0.05, celsius: 5 }) //=> 0.0459…
 */
export function hydrometerStrength(input: {
  readStrength: number;
  celsius: number;
  calibratedAtCelsius?: number;
}): number {
  const { readStrength, celsius, calibratedAtCelsius = 20 } = input;
  const shown = brineDensity({ strength: readStrength, celsius: calibratedAtCelsius });
  return strengthFromDensity({ gramsPerMl: shown * (1 - 2.5e-5 * (celsius - calibratedAtCelsius)), celsius });
}
