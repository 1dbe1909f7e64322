import type { Contents } from '../salt/contents.js';

/** What a mixture comes to before it is poured. */
export interface MixingSays {
  readonly waterPhaseSalt: number | null;
  /** What is left of the acid's strength in the water phase: 1 where nothing thins it. */
  readonly acidShare: number;
  /** From as it is to all that thinning can do; null where nothing was read. An estimate: it is read when it is even. */
  readonly ph: { readonly from: number; readonly to: number } | null;
}

/**
 * Product and what is poured on it, once they are even. Only the product's own brine brings acid along; everything else
 * thins it by the water phase. An acid with its buffer moves little, one without by the whole of log10 of the share:
 * the band lies between. Source: handbook 4.1, worked case W15.
 *
 * @param input.sour the part of what is poured that is as sour as the product, such as its own brine
 * @throws {RangeError} a water phase of nothing
 * @example mixing({ product: { waterGrams: 8100, saltGrams: 199 }, added: { waterGrams: 2928, saltGrams: 72 }, ph: 3.6 }).acidShare //=> 0.73
 */
export function mixing(input: {
  readonly product: Pick<Contents, 'waterGrams' | 'saltGrams' | 'known'>;
  readonly added: Pick<Contents, 'waterGrams' | 'saltGrams' | 'known'>;
  readonly sour: boolean;
  readonly ph: number | null;
}): MixingSays {
  const { product, added, sour, ph } = input;
  const phase = product.waterGrams + product.saltGrams;
  const all = phase + added.waterGrams + added.saltGrams;
  if (!(phase > 0)) throw new RangeError('a product that is thinned has a water phase');
  const acidShare = sour ? 1 : phase / all;
  return {
    waterPhaseSalt: product.known && added.known ? (product.saltGrams + added.saltGrams) / all : null,
    acidShare,
    ph: ph === null ? null : { from: ph, to: Math.min(7, ph - Math.log10(acidShare)) },
  };
}

/**
 * Drained pieces as they are weighed: their water fraction, and the salt of their water phase.
 * @example drained({ grams: 9000, waterFraction: 0.9, waterPhaseSalt: 0.024 }).saltGrams //=> 199
 */
export function drained(input: { grams: number; waterFraction: number; waterPhaseSalt: number }): {
  waterGrams: number;
  saltGrams: number;
} {
  const waterGrams = input.grams * input.waterFraction;
  return { waterGrams, saltGrams: (waterGrams * input.waterPhaseSalt) / (1 - input.waterPhaseSalt) };
}

/** Brine goes back in quarters: after each one somebody may stop. Cumulative grams. Source: handbook 4.2. */
export const brineBackStops = (wantedGrams: number): number[] => [1, 2, 3, 4].map((part) => (wantedGrams * part) / 4);

/** Thickener for so much, with the range the trade uses where the house has none of its own. Fractions of the mass. */
export const THICKENER = { from: 0.001, to: 0.003 } as const;

/** Loads a blender takes, the last one smaller. @example blenderLoads(25_870, 2000) //=> { loads: 13, lastGrams: 1870 } */
export function blenderLoads(massGrams: number, holdsGrams: number): { loads: number; lastGrams: number } {
  if (!(holdsGrams > 0)) throw new RangeError('a blender holds more than nothing');
  const loads = Math.max(1, Math.ceil(massGrams / holdsGrams - 1e-9));
  return { loads, lastGrams: massGrams - (loads - 1) * holdsGrams };
}

/** Percent of acetic acid in all of it, by what the bottle of vinegar says. */
export const aceticPercent = (vinegarGrams: number, strengthPercent: number, massGrams: number): number =>
  massGrams > 0 ? (vinegarGrams * strengthPercent) / massGrams : 0;
