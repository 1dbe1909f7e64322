import { accept, refuse, type Outcome } from '../refusal.js';
import { waterPhaseSalt } from '../salt/waterPhase.js';
import { formatGrams } from '../units/format.js';
import { usableMl, type Room } from '../vessels/usable.js';
import { makeBrine } from './adjust.js';
import { brineDensity } from './density.js';

export interface Solid {
  readonly grams: number;
  /** True density, g/mL: what it displaces. */
  readonly gramsPerMl: number;
  readonly waterFraction?: number;
}

export interface BrineForVessel {
  readonly usableMl: number;
  readonly solidsMl: number;
  /** Solids volume per usable volume. */
  readonly packing: number;
  readonly brineMl: number;
  readonly brineGrams: number;
  readonly saltGrams: number;
  readonly waterGrams: number;
  readonly waterPhaseSalt: number;
  /** With the margin on top: what to make. The rest fills airlocks and is kept for topping up. */
  readonly make: {
    readonly brineGrams: number;
    readonly saltGrams: number;
    readonly waterGrams: number;
    readonly spareGrams: number;
  };
}

/** More is made than poured, so that an airlock and a top-up are in hand. Source: handbook 2.6. */
export const BRINE_MARGIN = 0.08;

/**
 * The brine a vessel really takes: usable room less what the solids displace, and what to make.
 * `strength` is a fraction w/w, `mostPacking` the form's maximum. Source: handbook 2.6, worked case W3.
 * @example brineForVessel({ room: { brimMl: 15000, maxFill: 0.88, weightVolumeMl: 350 }, solids: [{ grams: 7200, gramsPerMl: 0.96 }], strength: 0.047619 })
 */
export function brineForVessel(input: {
  room: Room;
  solids: readonly Solid[];
  strength: number;
  mostPacking?: number;
  margin?: number;
}): Outcome<BrineForVessel> {
  const { room, solids, strength, mostPacking = 0.7, margin = BRINE_MARGIN } = input;
  const usable = usableMl(room);
  const solidsMl = solids.reduce((sum, solid) => sum + solid.grams / solid.gramsPerMl, 0);
  const packing = solidsMl / usable;
  if (packing > mostPacking) {
    const most = mostPacking * usable;
    return refuse(
      'vessel.doesNotCover',
      `${formatGrams(solids.reduce((sum, solid) => sum + solid.grams, 0))} will not go in: it would take ${Math.round(packing * 100)} % of the usable ${(usable / 1000).toFixed(2)} L, and produce of this form packs to ${Math.round(mostPacking * 100)} % at most. About ${formatGrams((most / solidsMl) * solids.reduce((sum, solid) => sum + solid.grams, 0))} goes in; use a larger vessel for the rest.`,
      {
        field: 'solids',
        facts: { packing, mostPacking, usableMl: usable },
      },
    );
  }
  const brineMl = usable - solidsMl;
  const brineGrams = brineMl * brineDensity({ strength });
  const poured = makeBrine({ brineGrams, strength });
  const made = makeBrine({ brineGrams: brineGrams * (1 + margin), strength });
  return accept({
    usableMl: usable,
    solidsMl,
    packing,
    brineMl,
    brineGrams,
    ...poured,
    waterPhaseSalt: waterPhaseSalt({
      saltGrams: poured.saltGrams,
      parts: [
        ...solids.map((solid) => ({ grams: solid.grams, waterFraction: solid.waterFraction ?? 0.92 })),
        { grams: poured.waterGrams, waterFraction: 1 },
      ],
    }),
    make: { brineGrams: brineGrams * (1 + margin), ...made, spareGrams: brineGrams * margin },
  });
}
