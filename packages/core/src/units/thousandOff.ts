/** From this part of its plan to this many times its plan a mass is still one somebody weighs. */
const [LEAST, MOST] = [0.02, 3];
/** So many times its plan no portion is; so small a part of it hardly one. */
const [TOO_MUCH, TOO_LITTLE] = [20, 1 / 300];

/**
 * What was probably meant by a mass that is a thousand times off its plan: grams typed where kilograms are asked, or the
 * other way round. Grams; null where nothing speaks for such a slip.
 * @example thousandOff({ grams: 5_714_000, planned: 5714 }) //=> 5714
 */
export function thousandOff({ grams, planned }: { grams: number; planned: number }): number | null {
  if (!(grams > 0) || !(planned > 0)) return null;
  const meant = grams >= planned * TOO_MUCH ? grams / 1000 : grams <= planned * TOO_LITTLE ? grams * 1000 : null;
  return meant !== null && meant >= planned * LEAST && meant <= planned * MOST ? meant : null;
}

/** Under so many grams nothing is weighed that is usually weighed in kilograms, and above so many nothing in grams. */
const [LEAST_OF_KG, MOST_OF_G] = [50, 50_000];

/**
 * What was probably meant by a bare figure without a plan, typed in the house's unit where such a mass is usually
 * weighed in the other one. Grams; null where nothing speaks for a slip.
 * @example otherUnitMeant({ grams: 0.9, unit: 'g', usual: 'kg' }) //=> 900
 */
export function otherUnitMeant(of: {
  readonly grams: number;
  readonly unit: 'g' | 'kg';
  readonly usual: 'g' | 'kg';
}): number | null {
  const { grams, unit, usual } = of;
  if (unit === usual || !(grams > 0)) return null;
  if (unit === 'g') return grams < LEAST_OF_KG ? grams * 1000 : null;
  return grams > MOST_OF_G ? grams / 1000 : null;
}
