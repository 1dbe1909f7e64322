import { accept, type Outcome, refuse } from '../refusal.js';
import { formatGrams } from '../units/format.js';

/** What a house has beside vessels, meters and jars. */
export const EQUIPMENT_KINDS = ['scale', 'tool', 'parts', 'water'] as const;

export type EquipmentKind = (typeof EQUIPMENT_KINDS)[number];

export const EQUIPMENT_WORDS: Readonly<Record<EquipmentKind, string>> = {
  scale: 'Scale',
  tool: 'Tool',
  parts: 'Loose parts',
  water: 'Water source',
};

const DAY = 86_400_000;

/** How long a look at one lasts: a scale against a weight, a water source by a test. Loose parts and tools have no such day. */
export const CHECKED_EVERY_DAYS: Readonly<Partial<Record<EquipmentKind, number>>> = { scale: 7, water: 365 };

/** A scale may differ from a weight by one of its steps or by a thousandth of the weight, whichever is more. */
export const scaleMayDiffer = (stepGrams: number, weightGrams: number): number =>
  Math.max(stepGrams, weightGrams / 1000);

/** Under this a weight says nothing of a scale: one step counts for too much, and the rest of its range is not reached. */
export const leastWeight = ({ stepGrams, capacityGrams }: { stepGrams: number; capacityGrams: number }): number =>
  Math.max(stepGrams * 20, capacityGrams / 50);

/** A scale has a range and a step, at most a twentieth of it. */
export const isScaleSaid = (capacityGrams: number | null | undefined, stepGrams: number | null | undefined): boolean =>
  capacityGrams != null && stepGrams != null && stepGrams * 20 <= capacityGrams;

export interface ScaleCheck {
  /** Shown less weight, grams. */
  readonly offGrams: number;
  readonly mayDifferGrams: number;
  readonly passed: boolean;
}

/**
 * A scale against a weight that is known.
 * @throws {RangeError} never: what cannot be weighed is refused
 * @example decideScaleCheck({ tag: 'S1', stepGrams: 1, capacityGrams: 6000, weightGrams: 2000, shownGrams: 2003 }) //=> off 3 g of 2 g, not passed
 */
export function decideScaleCheck(input: {
  readonly tag: string;
  readonly stepGrams: number;
  readonly capacityGrams: number;
  readonly weightGrams: number;
  readonly shownGrams: number;
}): Outcome<ScaleCheck> {
  const { tag, stepGrams, capacityGrams, weightGrams, shownGrams } = input;
  if (!(weightGrams <= capacityGrams))
    return refuse(
      'equipment.outside',
      `A weight of ${formatGrams(weightGrams)} was given; ${tag} weighs up to ${formatGrams(capacityGrams)}. Take a smaller one.`,
      { field: 'weightGrams' },
    );
  const least = leastWeight({ stepGrams, capacityGrams });
  if (!(weightGrams >= least))
    return refuse(
      'equipment.outside',
      `A weight of ${formatGrams(weightGrams)} was given. ${tag} is looked at with ${formatGrams(least)} or more: under that one step counts for too much.`,
      { field: 'weightGrams' },
    );
  const offGrams = Math.round((shownGrams - weightGrams) * 1000) / 1000;
  const mayDifferGrams = scaleMayDiffer(stepGrams, weightGrams);
  return accept({ offGrams, mayDifferGrams, passed: Math.abs(offGrams) <= mayDifferGrams });
}

/**
 * Whether a scale or a water source is to be looked at again; null: nothing is due. `missing` counts for loose parts
 * that were fewer at the last count than there should be.
 */
export function equipmentDue(of: {
  readonly kind: EquipmentKind;
  readonly checkedAt: number | null;
  readonly passed: boolean | null;
  readonly now: number;
}): 'never' | 'failed' | 'old' | null {
  if (of.passed === false) return 'failed';
  const every = CHECKED_EVERY_DAYS[of.kind];
  if (every === undefined) return null;
  if (of.checkedAt === null) return 'never';
  return of.now - of.checkedAt > every * DAY ? 'old' : null;
}

/**
 * Whether a mixed sanitiser may still be used at a moment: of its strength by a check, or with a reason why none is made,
 * and not past its time. What nobody checked is not of its strength.
 * @returns a refusal that names it, what is missing, or its last moment
 */
export const decideSanitiser = (input: {
  readonly code: string;
  readonly goodUntil: number;
  /** What its last check said; null: nobody checked it. */
  readonly passed: boolean | null;
  /** Why nobody checks it. */
  readonly unchecked: string | null;
  readonly at: number;
  readonly until: string;
}): Outcome<null> => {
  const no = (message: string): Outcome<null> => refuse('sanitiser.notFit', message, { field: 'mixId' });
  if (input.passed === false)
    return no(`${input.code} did not reach its strength when it was checked. Mix a new one, or check it again.`);
  if (!(input.at <= input.goodUntil))
    return no(`${input.code} was good until ${input.until}. Mix a new one, and use that.`);
  if (input.passed !== true && !input.unchecked?.trim())
    return no(
      `Nobody has checked how strong ${input.code} is, and a weak one cleans nothing. Hold a strip into it, write down what it shows, and then use it.`,
    );
  return accept(null);
};
