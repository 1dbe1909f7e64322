import { accept, refuse, type Outcome } from '../refusal.js';
import { formatPercent } from '../units/format.js';
import { SATURATED_SOLUTION } from './density.js';

/** Salt and water for so much brine of a strength (fraction w/w). The two add up to the brine. */
export function makeBrine(input: { brineGrams: number; strength: number }): { saltGrams: number; waterGrams: number } {
  const saltGrams = input.brineGrams * input.strength;
  return { saltGrams, waterGrams: input.brineGrams - saltGrams };
}

/**
 * "I have this much brine at that strength; I need this": water that thins it, or salt that strengthens it.
 * Strengths are fractions w/w. Source: handbook 2.4.
 * @example adjustBrine({ brineGrams: 1000, strength: 0.05, wanted: 0.04 }) //=> { ok: true, value: { addWaterGrams: 250, addSaltGrams: 0, brineGrams: 1250 } }
 */
export function adjustBrine(input: {
  brineGrams: number;
  strength: number;
  wanted: number;
}): Outcome<{ addWaterGrams: number; addSaltGrams: number; brineGrams: number }> {
  const { brineGrams, strength, wanted } = input;
  if (!(wanted > 0 && wanted <= SATURATED_SOLUTION)) {
    return refuse(
      'brine.saturated',
      `${formatPercent(wanted)} was asked for. A brine can be made from above 0 to 26 % salt; no water takes up more.`,
      { field: 'wanted' },
    );
  }
  if (wanted < strength) {
    const addWaterGrams = brineGrams * (strength / wanted - 1);
    return accept({ addWaterGrams, addSaltGrams: 0, brineGrams: brineGrams + addWaterGrams });
  }
  const addSaltGrams = (brineGrams * (wanted - strength)) / (1 - wanted);
  return accept({ addWaterGrams: 0, addSaltGrams, brineGrams: brineGrams + addSaltGrams });
}
