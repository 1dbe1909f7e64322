import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import { checkMass } from '../units/parseMass.js';
import { PACKED_GRAMS_PER_ML } from '../vessels/forms.js';

export interface FillableVessel {
  readonly tag: string;
  readonly brimMl: number;
  readonly maxFill: number;
  readonly minFill: number;
  readonly inUse: boolean;
  /** What its weight takes of the room, mL; 0 where it has none. */
  readonly weightVolumeMl?: number;
  /** Salt and acid eat it. */
  readonly rusts?: boolean;
  /** Code of the lot that stands in it now. */
  readonly takenBy: string | null;
}

/** Heaped shred settles, and a litre is not always a kilogram: so far over the brim a written reason carries. */
const HEAPED = 1.15;

/** So little over the window is the mark on the wall, not the vessel. */
const WINDOW_SLACK = 0.005;

/** A share of the brim that can be meant; what cannot is read as the strictest: nothing goes in without a word. */
const share = (fraction: number): number => (fraction > 0 && fraction <= 1 ? fraction : 0);

/**
 * A vessel is filled when it is free and in use, its weight counted in. Beyond its window, which leaves it its headspace,
 * it is filled only for a written reason, and never beyond what can be heaped. Source: handbook 2.6.
 * @throws {RangeError} a vessel without a brim, or with a weight below nought
 */
export function decideFill(input: {
  vessel: FillableVessel;
  grams: number;
  overReason?: string | null;
  /** `brim`: what goes in ferments no more, or is entered as it stands: only its brim bounds it. */
  bound?: 'window' | 'brim';
}): Outcome<{ fillFraction: number; window: 'under' | 'in' | 'over' }> {
  const { vessel, grams } = input;
  if (!vessel.inUse)
    return refuse('vessel.outOfUse', `${vessel.tag} is under repair. Choose another vessel.`, { field: 'vesselId' });
  if (vessel.rusts)
    return refuse(
      'vessel.rusts',
      `${vessel.tag} is of a metal that rusts: salt and acid eat it, and it goes into the food. Choose a vessel of stoneware, glass, food plastic, wood or stainless steel.`,
      { field: 'vesselId' },
    );
  if (vessel.takenBy) {
    return refuse(
      'vessel.taken',
      `${vessel.tag} still holds ${vessel.takenBy}. Choose a free vessel, or empty this one first.`,
      { field: 'vesselId', facts: { takenBy: vessel.takenBy } },
    );
  }
  const mass = checkMass({ grams, what: 'what is filled', field: 'grams' });
  if (!mass.ok) return mass;
  if (!(vessel.brimMl > 0 && Number.isFinite(vessel.brimMl))) throw new RangeError('a vessel has a brim');
  const weightMl = vessel.weightVolumeMl ?? 0;
  if (!(weightMl >= 0)) throw new RangeError('a weight takes room, or none');
  const most = share(vessel.maxFill);
  const fillFraction = (grams / PACKED_GRAMS_PER_ML + weightMl) / vessel.brimMl;
  const bound = input.bound === 'brim' ? 1 : most + WINDOW_SLACK;
  if (!(fillFraction <= HEAPED) || (!(fillFraction <= bound) && !input.overReason?.trim())) {
    const weight = weightMl > 0 ? ` and its weight takes ${weightMl} mL of it` : '';
    const way = fillFraction > HEAPED ? '' : ' If it goes in all the same, say why.';
    const fits = Math.max(0, vessel.brimMl * most - weightMl) * PACKED_GRAMS_PER_ML;
    return refuse(
      'vessel.overfull',
      `${formatGrams(grams)} ${fillFraction > 1 ? 'does not go into' : 'leaves no headspace in'} ${vessel.tag}: its brim is at ${(vessel.brimMl / 1000).toFixed(1)} L${weight}. Up to ${formatGrams(fits)} leaves it its headspace: ${formatGrams(Math.max(0, grams - fits))} is too much.${way}`,
      {
        field: 'grams',
        facts: { brimMl: vessel.brimMl, grams, ...(fillFraction <= HEAPED ? { asks: 'overReason' } : {}) },
      },
    );
  }
  return accept({
    fillFraction,
    window: !(fillFraction >= vessel.minFill) ? 'under' : fillFraction > most + WINDOW_SLACK ? 'over' : 'in',
  });
}
