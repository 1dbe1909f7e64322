/** Full bottles of a size, and the grams left. `missing` counts against what is set out. Source: handbook 7: before the first is filled. */
export function countBottles(input: { massGrams: number; sizeMl: number; gramsPerMl: number }): {
  bottles: number;
  leftGrams: number;
} {
  const each = input.sizeMl * input.gramsPerMl;
  if (!(each > 0 && input.massGrams >= 0)) throw new RangeError('a bottle holds more than nothing');
  const bottles = Math.floor(input.massGrams / each + 1e-9);
  return { bottles, leftGrams: Math.max(0, input.massGrams - bottles * each) };
}

/** How many containers are missing, or stand there for nothing: `setOut({ needed: 163, setOut: 160 }) //=> { missing: 3, spare: 0 }` */
export const setOut = (input: { needed: number; setOut: number }): { missing: number; spare: number } => ({
  missing: Math.max(0, input.needed - input.setOut),
  spare: Math.max(0, input.setOut - input.needed),
});
