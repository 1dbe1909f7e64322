/** How a house types masses at its bench: all in grams, all in kilograms, or large ones in kilograms and small ones in grams. */
export const MASS_UNITS = ['g', 'kg', 'both'] as const;

export type MassUnit = (typeof MASS_UNITS)[number];

export const MASS_UNIT_WORDS: Readonly<Record<MassUnit, string>> = {
  g: 'grams, always',
  kg: 'kilograms, always',
  both: 'kilograms for produce and vessels, grams for salt and spices',
};

/**
 * The unit a field of the bench takes where none is typed: the house's one, or what such a mass is usually weighed in.
 * @example benchUnit('g', 'kg') //=> 'g'
 */
export const benchUnit = (house: MassUnit | undefined, usual: 'g' | 'kg'): 'g' | 'kg' =>
  house === undefined || house === 'both' ? usual : house;
