/**
 * One dose over several bowls or vessels in proportion to what each holds, rounded to the scale's step so
 * that the parts add up exactly (largest remainders first). Source: handbook 2.2.
 * @throws {RangeError} no shares, or a step not above zero
 * @example splitDose({ doseGrams: 100, shares: [1, 1, 1], stepGrams: 1 }) //=> [34, 33, 33]
 */
export function splitDose(input: { doseGrams: number; shares: readonly number[]; stepGrams: number }): number[] {
  const { doseGrams, shares, stepGrams } = input;
  const whole = shares.reduce((sum, share) => sum + share, 0);
  if (!(whole > 0) || !(stepGrams > 0))
    throw new RangeError('shares add up to more than zero and the step is above zero');
  const steps = Math.round(doseGrams / stepGrams);
  const exact = shares.map((share) => (steps * share) / whole);
  const parts = exact.map(Math.floor);
  let left = steps - parts.reduce((sum, part) => sum + part, 0);
  const order = exact
    .map((value, index) => ({ index, rest: value - Math.floor(value) }))
    .sort((a, b) => b.rest - a.rest || a.index - b.index);
  for (let i = 0; left > 0; i = (i + 1) % order.length, left -= 1) parts[order[i]!.index]! += 1;
  return parts.map((part) => Number((part * stepGrams).toFixed(6)));
}
