/** What a vessel is made of. Salt and acid eat what rusts: nothing is fermented in it. Source: handbook 2.6. */
export const VESSEL_MATERIALS = ['stoneware', 'glass', 'plastic', 'wood', 'stainless', 'rusts', 'film'] as const;

export type VesselMaterial = (typeof VESSEL_MATERIALS)[number];

/** Whether something can be filled into a vessel now: in use, empty, and of nothing that salt and acid eat. */
export const isFillable = (vessel: {
  readonly inUse: boolean;
  readonly takenBy: string | null;
  readonly details: { readonly material?: VesselMaterial | null | undefined };
}): boolean => vessel.inUse && vessel.takenBy === null && vessel.details.material !== 'rusts';

export const VESSEL_MATERIAL_WORDS: Readonly<Record<VesselMaterial, string>> = {
  stoneware: 'stoneware',
  glass: 'glass',
  plastic: 'food plastic',
  wood: 'wood',
  stainless: 'stainless steel',
  rusts: 'a metal that rusts',
  film: 'bag film',
};
