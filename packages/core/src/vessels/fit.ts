import { leastMl, usableMl } from './usable.js';
import { bestSets, type FitType } from './fitSearch.js';
import { fullestUnder, leastOver } from './fitGaps.js';

export interface FitVessel {
  readonly id: string;
  readonly brimMl: number;
  readonly maxFill: number;
  readonly minFill: number;
  readonly weightVolumeMl: number;
}

export interface FitPart {
  readonly id: string;
  readonly contentsMl: number;
  /** Contents and weight per brim. */
  readonly fillFraction: number;
  readonly airMl: number;
}

export interface VesselSet {
  readonly parts: readonly FitPart[];
  readonly leftoverMl: number;
  readonly leastMl: number;
  readonly mostMl: number;
  readonly airMl: number;
}

export interface VesselFit {
  /** Best first: the least leftover, then the fewest vessels, then the least air. Empty when nothing fits. */
  readonly sets: readonly VesselSet[];
  readonly wouldFit: {
    /** mL more that the next larger set of free vessels asks for; null when there is none. */
    readonly moreMl: number | null;
    /** Brim of one more vessel that would take what is left over, from and to; null when nothing is left. */
    readonly brimMl: { readonly from: number; readonly to: number } | null;
  };
}

/**
 * Chooses vessels so that each one lies inside its fill window: exact to the millilitre for 60 vessels.
 * The fill fraction is the same in all of them as far as each one's window allows.
 * Source: handbook 2.6, worked case W4.
 * @throws {RangeError} a batch not above zero
 */
export function fitVessels(input: { batchMl: number; vessels: readonly FitVessel[]; sets?: number }): VesselFit {
  const { batchMl, vessels, sets: wanted = 5 } = input;
  if (!(batchMl > 0 && Number.isFinite(batchMl))) throw new RangeError('a batch has a volume above zero');
  const types = typesOf(vessels);
  const whole = bestSets({ batchMl, types, wanted });
  const counts = whole.length > 0 ? whole : fullestUnder({ batchMl, types });
  const sets = counts.map((counted) =>
    fillEvenly(
      batchMl,
      types.flatMap((type, index) => type.members.slice(0, counted[index])),
    ),
  );
  const left = sets[0]?.leftoverMl ?? batchMl;
  const like = vessels[0];
  const over = whole.length > 0 ? null : leastOver({ batchMl, types });
  return {
    sets,
    wouldFit: {
      moreMl: over === null ? null : over - batchMl,
      brimMl: left > 0.5 ? { from: left / (like?.maxFill ?? 0.85), to: left / (like?.minFill || 0.7) } : null,
    },
  };
}

interface Members extends FitType {
  readonly members: readonly FitVessel[];
}

/** Vessels that are alike are one type, largest first: which of them is taken does not matter. */
function typesOf(vessels: readonly FitVessel[]): Members[] {
  const groups = new Map<string, FitVessel[]>();
  for (const vessel of vessels) {
    if (usableMl(vessel) <= 0) continue;
    const key = [vessel.brimMl, vessel.maxFill, vessel.minFill, vessel.weightVolumeMl].join(' ');
    groups.set(key, [...(groups.get(key) ?? []), vessel]);
  }
  return [...groups.values()]
    .map((members) => ({
      members,
      count: members.length,
      leastMl: leastMl(members[0]!),
      mostMl: usableMl(members[0]!),
      roomMl: members[0]!.brimMl - members[0]!.weightVolumeMl,
    }))
    .sort((a, b) => b.mostMl - a.mostMl || a.roomMl - b.roomMl);
}

/** One fill fraction for all, each clamped to its own window, found by halving. */
function fillEvenly(batchMl: number, chosen: readonly FitVessel[]): VesselSet {
  const least = chosen.reduce((sum, vessel) => sum + leastMl(vessel), 0);
  const most = chosen.reduce((sum, vessel) => sum + usableMl(vessel), 0);
  const into = Math.min(batchMl, most);
  const at = (vessel: FitVessel, fraction: number): number =>
    Math.min(usableMl(vessel), Math.max(leastMl(vessel), vessel.brimMl * fraction - vessel.weightVolumeMl));
  let low = 0;
  let high = 1;
  for (let i = 0; i < 50; i += 1) {
    const middle = (low + high) / 2;
    if (chosen.reduce((sum, vessel) => sum + at(vessel, middle), 0) < into) low = middle;
    else high = middle;
  }
  const parts = chosen.map((vessel): FitPart => {
    const contentsMl = at(vessel, high);
    return {
      id: vessel.id,
      contentsMl,
      fillFraction: (contentsMl + vessel.weightVolumeMl) / vessel.brimMl,
      airMl: vessel.brimMl - vessel.weightVolumeMl - contentsMl,
    };
  });
  return {
    parts,
    leftoverMl: Math.max(0, batchMl - most),
    leastMl: least,
    mostMl: most,
    airMl: parts.reduce((sum, part) => sum + part.airMl, 0),
  };
}
