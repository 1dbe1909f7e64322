import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams, formatPercent } from '../units/format.js';

/** Leaves lose 10 to 30 % of their mass under heavy salt; a scale and a wet cloth make it a little wider. Source: handbook 2.3. */
export const LEAF_LOSS = { least: 0.05, most: 0.4 } as const;

/**
 * The drained mass, weighed. What is gone since the leaf was weighed in is the rinse's, by difference, and has to
 * lie in the range of leaves; beyond it nothing is closed by subtraction. Salt that was on it is rinsed off too.
 * @returns grams that went with the rinse water
 */
export function decideDrain(input: {
  leafGrams: number;
  inBowlsGrams: number;
  drainedGrams: number;
  reason: string | null;
}): Outcome<{ rinsedGrams: number; lossFraction: number }> {
  const { leafGrams, inBowlsGrams, drainedGrams, reason } = input;
  if (!(drainedGrams > 0))
    return refuse('mass.notPositive', 'Weigh the drained leaf: more than zero is accepted.', {
      field: 'drainedGrams',
    });
  if (!(drainedGrams <= inBowlsGrams))
    return refuse(
      'lot.overdrawn',
      `${formatGrams(drainedGrams)} drained is more than the ${formatGrams(inBowlsGrams)} that was in the bowls. Let it drip longer, or weigh again.`,
      { field: 'drainedGrams' },
    );
  const lossFraction = 1 - drainedGrams / leafGrams;
  if (!(lossFraction >= LEAF_LOSS.least && lossFraction <= LEAF_LOSS.most) && !reason?.trim()) {
    return refuse(
      'leaf.lossOutsideRange',
      `Of ${formatGrams(leafGrams)} leaf ${formatGrams(drainedGrams)} is left: ${formatPercent(lossFraction, 0)} gone. Leaves lose 10 to 30 %. Weigh again; if leaf was spilled or taken out, record that first, or write what happened.`,
      { field: 'drainedGrams', facts: { lossFraction } },
    );
  }
  return accept({ rinsedGrams: inBowlsGrams - drainedGrams, lossFraction });
}

/**
 * How a house lets a leaf go from the rinse: on a measured salt, on a taste against reference brines, or on the count
 * of rinses, whose estimate is watched by the pH of the first days instead. Source: handbook 1.3, 2.3.
 */
export function decideLeafSalt(input: {
  way: 'measured' | 'taste' | 'count';
  measured: boolean;
  tasted: boolean;
  reason: string | null;
}): Outcome<void> {
  const { way, measured, tasted, reason } = input;
  if (measured || way === 'count' || reason?.trim() || (way === 'taste' && tasted)) return accept(undefined);
  const what =
    way === 'measured'
      ? 'This house rinses to a measured salt: measure the drained juice with a meter or a refractometer'
      : 'This house rinses to taste: say how it tasted against the two reference brines';
  return refuse('leaf.saltNotMeasured', `${what}, or write why it goes on with the estimate.`, { field: 'measured' });
}
