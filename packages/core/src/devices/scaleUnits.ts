/** Units a bench scale can be switched to, in grams. */
export const UNIT_GRAMS = { g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237 } as const;
export type ScaleUnit = keyof typeof UNIT_GRAMS;

/** Taken as they are; any other unit is asked about first. */
export const HOME_UNITS: ReadonlySet<ScaleUnit> = new Set(['g', 'kg']);
