/** Litres of CO₂ per gram of sugar: the early heterofermentative phase, and where yeasts join. Source: handbook 2.6. */
export const GAS_LITRES_PER_GRAM = { early: 0.13, most: 0.27 } as const;

/** Sugar of produce when its material does not say, g per kg. Source: handbook 8.1, between small cucumber and shred. */
export const DEFAULT_SUGAR_PER_KG = 35;
/** Share of the sugar that can go in one lively day at room temperature; assumed, on the high side. */
const LIVELY_SHARE = 0.12;
const ATMOSPHERE_KPA = 101.3;

/**
 * How fast a sealed vessel gains pressure on a lively day, and how often it is burped so that no more than
 * `ventAtKpa` builds up. An estimate with the larger gas figure; what dissolves is not taken off.
 * Nothing live is ever sealed without venting. Source: handbook 2.6.
 * @throws {RangeError} no headspace, or no contents
 */
export function burpInterval(input: {
  contentsGrams: number;
  headspaceMl: number;
  sugarGramsPerKg?: number;
  ventAtKpa?: number;
}): { gasMlPerDay: number; kpaPerDay: number; hours: number } {
  const { contentsGrams, headspaceMl, sugarGramsPerKg = DEFAULT_SUGAR_PER_KG, ventAtKpa = 30 } = input;
  if (!(contentsGrams > 0 && headspaceMl > 0)) throw new RangeError('a sealed vessel has contents and headspace');
  const gasMlPerDay = (contentsGrams / 1000) * sugarGramsPerKg * LIVELY_SHARE * GAS_LITRES_PER_GRAM.most * 1000;
  const kpaPerDay = (gasMlPerDay / headspaceMl) * ATMOSPHERE_KPA;
  return { gasMlPerDay, kpaPerDay, hours: (ventAtKpa / kpaPerDay) * 24 };
}
