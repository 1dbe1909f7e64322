/** A mass that goes over the scale's capacity, in the fewest even portions. Parts add up exactly, in whole steps of the scale. */
export function portionsFor(input: {
  grams: number;
  capacityGrams: number;
  stepGrams: number;
  tareGrams: number;
}): number[] {
  const room = input.capacityGrams - input.tareGrams;
  if (!(room > 0 && input.stepGrams > 0 && input.grams > 0))
    throw new RangeError('a bowl has to leave room on the scale');
  const count = Math.max(1, Math.ceil(input.grams / room));
  const steps = Math.floor(input.grams / input.stepGrams);
  const parts = Array.from(
    { length: count },
    (_, index) => (Math.floor(steps / count) + (index < steps % count ? 1 : 0)) * input.stepGrams,
  );
  // What is under a step of the scale goes with the last, lightest portion.
  parts[count - 1] = Math.round((input.grams - parts.slice(0, -1).reduce((sum, part) => sum + part, 0)) * 1000) / 1000;
  return parts;
}
