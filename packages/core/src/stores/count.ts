import { accept, refuse, type Outcome } from '../refusal.js';
import { formatAmount, type StockUnit } from './amount.js';

/** A difference below this is the scale's and the spoon's: the larger of 20 g and 0.5 %. Source: handbook 5.1. */
export const countTolerance = (expectedGrams: number): number => Math.max(20, expectedGrams * 0.005);

/**
 * What stands there against what the ledger says. A difference beyond the tolerance wants a reason; within it
 * the ledger is put right without one. `differenceGrams` is positive when more was found.
 */
export function decideCount(input: {
  code: string;
  expectedGrams: number;
  countedGrams: number;
  reason: string | null;
  unit?: StockUnit;
}): Outcome<{ differenceGrams: number }> {
  const { code, expectedGrams, countedGrams, reason, unit = 'g' } = input;
  const say = (amount: number): string => formatAmount(amount, unit);
  if (!(Number.isFinite(countedGrams) && countedGrams >= 0))
    return refuse(
      'mass.notPositive',
      `${countedGrams} ${unit === 'g' ? 'g' : 'pieces'} was given for ${code}. What stands there is 0 or more.`,
      { field: 'grams' },
    );
  if (!Number.isFinite(expectedGrams)) throw new RangeError('what the ledger says is a mass');
  const differenceGrams = countedGrams - expectedGrams;
  // Pieces are counted, not weighed: every missing one wants its reason.
  if (!(Math.abs(differenceGrams) <= (unit === 'piece' ? 0 : countTolerance(expectedGrams))) && !reason?.trim()) {
    return refuse(
      'stock.reasonNeeded',
      `The ledger says ${say(expectedGrams)} of ${code}, ${say(countedGrams)} was counted: ${say(Math.abs(differenceGrams))} ${differenceGrams < 0 ? 'missing' : 'more'}. Weigh again, or say where the difference comes from.`,
      {
        field: 'reason',
        facts: { expectedGrams, countedGrams, differenceGrams },
      },
    );
  }
  return accept({ differenceGrams });
}
