/**
 * How produce of a form packs: true density g/mL and the share of the room it can take at most.
 * Source: handbook 8.4 (assumed there; a measured density replaces it).
 */
export const FORMS = {
  wholeSmall: { words: 'small, whole', gramsPerMl: 0.965, mostPacking: 0.62 },
  sticks: { words: 'sticks or slices', gramsPerMl: 1.035, mostPacking: 0.7 },
  shred: { words: 'pressed shred, in its juice', gramsPerMl: 0.95, mostPacking: 1 },
  leaf: { words: 'leaves with paste', gramsPerMl: 0.95, mostPacking: 1 },
  mash: { words: 'mash', gramsPerMl: 1.02, mostPacking: 1 },
  hollow: { words: 'hollow pods, fill later', gramsPerMl: 0.48, mostPacking: 0.5 },
  cloves: { words: 'cloves and buds', gramsPerMl: 1.075, mostPacking: 0.64 },
  berries: { words: 'berries', gramsPerMl: 1.0, mostPacking: 0.64 },
} as const;

export type Form = keyof typeof FORMS;
export const FORM_KEYS = Object.keys(FORMS) as [Form, ...Form[]];

/** Density taken for a packed ferment with its brine when nobody has measured it, g/mL. Source: handbook 8.4, brine of 2-3 %. */
export const PACKED_GRAMS_PER_ML = 1.0;
