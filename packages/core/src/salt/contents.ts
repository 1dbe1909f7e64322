import type { Sink } from '../ledger/movement.js';

/** Salt and water of a gram of a supply; `vegetable` where it is produce. Fractions of its own mass. */
export interface SupplyContents {
  readonly waterFraction: number;
  readonly saltFraction: number;
  readonly vegetable: boolean;
}

/**
 * How a mass leaves the lot it is taken from: the mix of all that is in it, its brine alone, water alone, gas, which takes
 * neither, or its drained pieces.
 */
export type Takes = 'mix' | 'brine' | 'water' | 'gas' | 'rinse' | 'solids';

export interface ContentMovement {
  readonly at: number;
  /** Decides between movements of one moment. */
  readonly order: number;
  readonly from: string | null;
  readonly to: string | null;
  readonly takes: Takes;
  readonly grams: number;
  /** Of a rinse: the water-phase salt measured, or estimated, on what stays. */
  readonly leavesSalt?: number | null;
}

/** What stands in a lot: its mass, and of that the water, the salt and the produce as it went in. */
export interface Contents {
  readonly grams: number;
  readonly waterGrams: number;
  readonly saltGrams: number;
  readonly vegetableGrams: number;
  /** False as soon as something of unknown make went in, such as what stood there before the ledger. */
  readonly known: boolean;
}

export const NOTHING_IN: Contents = { grams: 0, waterGrams: 0, saltGrams: 0, vegetableGrams: 0, known: true };

/**
 * What stands in each lot, by the movements in their order in time: bowls, brine really poured, what joined, was
 * topped up, ran over, evaporated or was taken. This is the one place a vessel's salt is computed.
 *
 * A supply gives its own make, without end. What comes out takes its part of all three, unless it is brine
 * (salt and water as they stand in the water phase) or water that evaporated. A rinse leaves the water phase at the
 * salt found on what stays. Source: handbook 2.1, 2.3, 2.4.
 *
 * @param input.until moments after this one do not count
 * @throws {RangeError} a mass that is negative or not a number
 * @example contentsOf({ supplies, movements: [leaf into bowl, salt into bowl, bowl into vessel] }).get(vessel)
 */
export function contentsOf(input: {
  readonly supplies: ReadonlyMap<string, SupplyContents>;
  readonly movements: readonly ContentMovement[];
  readonly until?: number;
}): Map<string, Contents> {
  const { supplies, until = Infinity } = input;
  const standing = new Map<string, Contents>();
  const inOrder = input.movements.filter(({ at }) => at <= until).sort((a, b) => a.at - b.at || a.order - b.order);
  for (const movement of inOrder) {
    if (!(movement.grams >= 0 && Number.isFinite(movement.grams)))
      throw new RangeError('a movement has a mass that is not below nought');
    const supply = movement.from === null ? undefined : supplies.get(movement.from);
    const before = movement.from === null ? undefined : (standing.get(movement.from) ?? NOTHING_IN);
    const moved = supply
      ? ofSupply(supply, movement.grams)
      : before
        ? drawn(before, movement)
        : unknown(movement.grams);
    if (movement.from !== null && !supply) standing.set(movement.from, minus(before!, moved));
    if (movement.to !== null) standing.set(movement.to, plus(standing.get(movement.to) ?? NOTHING_IN, moved));
  }
  return standing;
}

const ofSupply = (of: SupplyContents, grams: number): Contents => ({
  grams,
  waterGrams: grams * of.waterFraction,
  saltGrams: grams * of.saltFraction,
  vegetableGrams: of.vegetable ? grams : 0,
  known: Number.isFinite(of.waterFraction) && Number.isFinite(of.saltFraction),
});

const unknown = (grams: number): Contents => ({ ...NOTHING_IN, grams, known: false });

function drawn(from: Contents, { takes, grams, leavesSalt }: ContentMovement): Contents {
  const { waterGrams: water, saltGrams: salt, known } = from;
  const phase = water + salt;
  if (takes === 'gas') return { ...NOTHING_IN, grams, known };
  if (takes === 'water') return { ...NOTHING_IN, grams, waterGrams: Math.min(grams, water), known };
  if (takes === 'rinse') {
    const stays = Math.max(0, phase - grams);
    const saltStays = stays * (leavesSalt ?? (phase > 0 ? salt / phase : 0));
    return { grams, saltGrams: salt - saltStays, waterGrams: water - (stays - saltStays), vegetableGrams: 0, known };
  }
  if (takes === 'brine' && phase >= grams && phase > 0)
    return { ...NOTHING_IN, grams, waterGrams: (water * grams) / phase, saltGrams: (salt * grams) / phase, known };
  if (takes === 'solids' && from.vegetableGrams > 0 && phase > 0) {
    // Drained pieces weigh about what went in, and hold all that is neither water nor salt.
    const share = Math.min(1, grams / from.vegetableGrams);
    const dry = Math.min(grams, Math.max(0, from.grams - phase) * share);
    const wet = Math.min(grams - dry, phase);
    return {
      grams,
      waterGrams: (water * wet) / phase,
      saltGrams: (salt * wet) / phase,
      vegetableGrams: from.vegetableGrams * share,
      known,
    };
  }
  // More than all its brine, or a mix: its part of everything. A weighing may find a little more than the book has.
  const share = from.grams > 0 ? Math.min(1, grams / from.grams) : 0;
  return {
    grams,
    waterGrams: water * share,
    saltGrams: salt * share,
    vegetableGrams: from.vegetableGrams * share,
    known,
  };
}

const plus = (a: Contents, b: Contents): Contents => ({
  grams: a.grams + b.grams,
  waterGrams: a.waterGrams + b.waterGrams,
  saltGrams: a.saltGrams + b.saltGrams,
  vegetableGrams: a.vegetableGrams + b.vegetableGrams,
  known: a.known && b.known,
});

const minus = (a: Contents, b: Contents): Contents => ({
  grams: Math.max(0, a.grams - b.grams),
  waterGrams: Math.max(0, a.waterGrams - b.waterGrams),
  saltGrams: Math.max(0, a.saltGrams - b.saltGrams),
  vegetableGrams: Math.max(0, a.vegetableGrams - b.vegetableGrams),
  known: a.known,
});

/** So many grams of a mix, or of a brine out of it. */
export const shareOf = (of: Contents, grams: number): Contents =>
  drawn(of, { at: 0, order: 0, from: null, to: null, takes: 'mix', grams });

/** Both together. */
export const together = (a: Contents, b: Contents): Contents => plus(a, b);

/** Movements out of a vessel that take its brine: poured off, run over, dripped, skimmed. */
export const BRINE_SINKS: readonly Sink[] = ['overflow', 'drip'];
/** Entries that take brine off a vessel. */
export const BRINE_KINDS: readonly string[] = [
  'brine.keep',
  'brine.left',
  'ingredient.add',
  'preparation.make',
  'finish.brine',
  'finish.brineBack',
  'finish.juice',
];
/** A movement of drained pieces out of a vessel. */
export const DRAINED = 'finish.drained';

/** How a movement takes from its lot, by what the ledger knows of it. */
export function takesOf(movement: {
  readonly kind: string;
  readonly sink: string | null;
  readonly fromVessel: boolean;
}): Takes {
  if (movement.sink === 'evaporation') return 'water';
  if (movement.sink === 'gas') return 'gas';
  if (movement.sink === 'rinse') return 'rinse';
  if (movement.kind === DRAINED) return 'solids';
  const brine =
    movement.fromVessel &&
    ((BRINE_SINKS as readonly string[]).includes(movement.sink ?? '') || BRINE_KINDS.includes(movement.kind));
  return brine ? 'brine' : 'mix';
}
