import { brineDensity, SATURATED_SOLUTION, strengthFromDensity, WATER_GRAMS_PER_ML } from './density.js';
import { accept, refuse, type Outcome } from '../refusal.js';

/** Ways of saying how strong a brine is. Source: handbook 2.4. */
export const STRENGTH_SCALES = ['ofSolution', 'ofWater', 'gramsPerLitre', 'specificGravity', 'salometer'] as const;
export type StrengthScale = (typeof STRENGTH_SCALES)[number];

export const STRENGTH_WORDS: Record<StrengthScale, string> = {
  ofSolution: '% of the brine (w/w)',
  ofWater: '% of the water',
  gramsPerLitre: 'g per litre of brine',
  specificGravity: 'specific gravity at 20 °C',
  salometer: 'salometer degrees',
};

/** Per cent w/w of one salometer degree. Source: handbook 8.4. */
const SALOMETER = 0.26395;

/**
 * A strength on one scale, as a fraction w/w. Percentages are given as fractions; the others as read.
 * @example strengthFrom({ scale: 'ofWater', value: 0.05 }) //=> { ok: true, value: 0.04761… }
 */
export function strengthFrom(input: { scale: StrengthScale; value: number }): Outcome<number> {
  const { scale, value } = input;
  const beyond = (most: string) =>
    refuse(
      'brine.saturated',
      `${value} was given. Water takes up salt to 26 % of the brine (${most}); no brine is stronger.`,
      { field: 'strength', facts: { value, scale } },
    );
  if (!Number.isFinite(value) || value < 0)
    return refuse('quantity.unreadable', `${value} is no strength of a brine. It is 0 or more.`, {
      field: 'strength',
    });
  switch (scale) {
    case 'ofSolution':
      return value <= SATURATED_SOLUTION ? accept(value) : beyond('0.26 as a fraction');
    case 'ofWater':
      return value <= 0.3514 ? accept(value / (1 + value)) : beyond('35 % of the water');
    case 'salometer':
      return value <= 98.5 ? accept((value * SALOMETER) / 100) : beyond('98 degrees');
    case 'specificGravity':
      if (value < 0.9998)
        return refuse('quantity.unreadable', `${value} is lighter than water. A brine reads from 1.000 to 1.197.`, {
          field: 'strength',
        });
      return value <= 1.2
        ? accept(
            strengthFromDensity({
              gramsPerMl: Math.min(value * WATER_GRAMS_PER_ML, brineDensity({ strength: SATURATED_SOLUTION })),
            }),
          )
        : beyond('1.197');
    case 'gramsPerLitre': {
      if (value > 1000 * SATURATED_SOLUTION * brineDensity({ strength: SATURATED_SOLUTION }))
        return beyond('311 g per litre');
      let low = 0;
      let high = SATURATED_SOLUTION;
      for (let i = 0; i < 48; i += 1) {
        const middle = (low + high) / 2;
        if (1000 * middle * brineDensity({ strength: middle }) < value) low = middle;
        else high = middle;
      }
      return accept((low + high) / 2);
    }
  }
}

/** A strength (fraction w/w) on every scale, at 20 °C. The way back of `strengthFrom`. */
export function strengthOnAllScales(strength: number): Record<StrengthScale, number> {
  const density = brineDensity({ strength });
  return {
    ofSolution: strength,
    ofWater: strength / (1 - strength),
    gramsPerLitre: 1000 * strength * density,
    specificGravity: density / WATER_GRAMS_PER_ML,
    salometer: (strength * 100) / SALOMETER,
  };
}
