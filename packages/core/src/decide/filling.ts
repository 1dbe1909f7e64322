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
  /** Code of the lot that stands in it now. */
  readonly takenBy: string | null;
}

/** A vessel is filled when it is free and in use, and not beyond its brim. Source: handbook 2.6. */
export function decideFill(input: { vessel: FillableVessel; grams: number }): Outcome<{ fillFraction: number; window: 'under' | 'in' | 'over' }> {
  const { vessel, grams } = input;
  if (!vessel.inUse) return refuse('vessel.outOfUse', `${vessel.tag} is under repair. Choose another vessel.`, { field: 'vesselId' });
  if (vessel.takenBy) {
    return refuse('vessel.taken', `${vessel.tag} still holds ${vessel.takenBy}. Choose a free vessel, or empty this one first.`, { field: 'vesselId', facts: { takenBy: vessel.takenBy } });
  }
  const mass = checkMass({ grams, what: 'what is filled', field: 'grams' });
  if (!mass.ok) return mass;
  if (!(vessel.brimMl > 0)) throw new RangeError('a vessel has a brim');
  const fillFraction = grams / PACKED_GRAMS_PER_ML / vessel.brimMl;
  if (fillFraction > 1) {
    return refuse('vessel.overfull', `${formatGrams(grams)} does not go into ${vessel.tag}: its brim is at ${(vessel.brimMl / 1000).toFixed(1)} L. Up to ${formatGrams(vessel.brimMl * vessel.maxFill * PACKED_GRAMS_PER_ML)} leaves it its headspace.`, {
      field: 'grams', facts: { brimMl: vessel.brimMl, grams },
    });
  }
  return accept({ fillFraction, window: fillFraction < vessel.minFill ? 'under' : fillFraction > vessel.maxFill ? 'over' : 'in' });
}
