import type { UsualGrams } from '../scaling/index.js';
import { formatGrams } from '../units/format.js';
import { accept, refuse, type Outcome } from '../refusal.js';
import { checkMass } from '../units/parseMass.js';

/** How a formula line stands on the run sheet. Source: handbook 7: weighed, ticked or left out with a reason. */
export type LineState = 'open' | 'weighed' | 'ticked' | 'leftOut';

export interface SheetLine {
  readonly key: string;
  readonly materialId: string;
  readonly name: string;
  /** Null: to taste, or counted on something not known yet. */
  readonly plannedGrams: number | null;
  /** What usually goes in, for this batch. */
  readonly usual: UsualGrams | null;
  readonly inGrams: number;
  readonly state: LineState;
  readonly reason: string | null;
  /** May go in without being weighed, its planned mass taken for it. */
  readonly mayTick: boolean;
}

/** Portions of one material settle its lines in their order; a mark of a person settles a line that is not weighed. */
export function settleLines(input: {
  planned: readonly {
    key: string;
    materialId: string;
    name: string;
    grams: number | null;
    usual?: UsualGrams | null;
    mayTick?: boolean;
  }[];
  weighed: readonly {
    line: string | null;
    materialId: string;
    grams: number;
    /** By its planned mass, not by a scale. */ ticked?: boolean;
  }[];
  marks: Readonly<Record<string, { how: 'ticked' | 'leftOut'; reason: string | null }>>;
}): SheetLine[] {
  return input.planned.map((line): SheetLine => {
    const only = input.planned.filter((other) => other.materialId === line.materialId).length === 1;
    const own = input.weighed.filter(
      (row) => row.line === line.key || (row.line === null && only && row.materialId === line.materialId),
    );
    const inGrams = own.reduce((sum, row) => sum + row.grams, 0);
    const byScale = own.some((row) => !row.ticked);
    const mark = input.marks[line.key];
    return {
      key: line.key,
      materialId: line.materialId,
      name: line.name,
      plannedGrams: line.grams,
      usual: line.usual ?? null,
      inGrams,
      state: byScale ? 'weighed' : (mark?.how ?? 'open'),
      reason: byScale ? null : (mark?.reason ?? null),
      mayTick: line.mayTick ?? false,
    };
  });
}

/** "20 g to 35 g", "35 g at most". */
export const usualWords = ({ least, most }: UsualGrams): string =>
  least !== null && most !== null
    ? `${formatGrams(least)} to ${formatGrams(most)}`
    : most !== null
      ? `${formatGrams(most)} at most`
      : `${formatGrams(least ?? 0)} or more`;

/**
 * Whether what is in of a line, with what goes in now, stays under what usually goes in; beyond it somebody says why.
 * Too little is not told before the last portion: it is said beside the line, and kept from nobody.
 */
export function decideUsual(input: {
  readonly name: string;
  readonly usual: UsualGrams | null;
  readonly inGrams: number;
  readonly grams: number;
  readonly reason: string | null;
}): Outcome<null> {
  const { name, usual, inGrams, grams, reason } = input;
  const all = inGrams + grams;
  // What a scale cannot tell apart is no question.
  if (Number.isFinite(all) && grams >= 0 && (usual?.most == null || all <= usual.most * 1.005 || reason?.trim()))
    return accept(null);
  return refuse(
    'line.unusual',
    `${formatGrams(all)} of ${name} is over its usual range for this batch, ${usual ? usualWords(usual) : 'which nobody gave'}. Look at the scale and at the unit; if it is meant, say why.`,
    { field: 'grams', facts: { asks: 'unusualReason' } },
  );
}

export interface TickableMaterial {
  readonly kind: string;
  readonly allergens: readonly string[];
  readonly mayContain?: readonly string[];
  /** vegan, honey, milk, fish … */
  readonly diet?: readonly string[];
}

const ANIMAL = /fish|milk|honey|egg|meat|shell|crustacean|shrimp|prawn|mollusc|oyster|animal|whey|gelatine?/i;

/** Why a material is always weighed; null where a pinch may go in unweighed. Source: handbook 5.2, 7. */
export function alwaysWeighed(material: TickableMaterial): string | null {
  if (material.kind === 'starter') return 'it starts the batch, and its donor is an ancestor';
  if (material.kind === 'salt') return 'salt is the batch’s safety';
  if (material.allergens.length > 0 || (material.mayContain?.length ?? 0) > 0)
    return 'it is, or may contain, an allergen';
  return material.diet?.some((word) => ANIMAL.test(word)) ? 'it is of animal origin' : null;
}

/**
 * A line that is in and was not weighed: never a starter, salt, an allergen or anything of animal origin. It still names
 * its lot, or says why that is not known, and carries its planned mass. Source: handbook 5.2.
 */
export function decideTick(input: {
  name: string;
  material: TickableMaterial;
  plannedGrams: number | null;
  grams?: number | null;
  knowsLot: boolean;
  note: string | null;
}): Outcome<{ grams: number }> {
  const always = alwaysWeighed(input.material);
  if (always)
    return refuse(
      'line.alwaysWeighed',
      `${input.name} is always weighed: ${always}. Weigh it, or leave it out with a reason.`,
      { field: 'line' },
    );
  if (!input.knowsLot && !input.note?.trim())
    return refuse(
      'line.lotUnknown',
      `From which lot was ${input.name}? Choose it, or write why nobody knows: without it no trace finds what it went into.`,
      { field: 'note' },
    );
  const grams = checkMass({
    grams: input.grams ?? input.plannedGrams ?? NaN,
    what: `${input.name}, about`,
    field: 'grams',
  });
  return grams.ok
    ? accept({ grams: grams.value })
    : input.plannedGrams === null && input.grams == null
      ? refuse(
          'mass.notPositive',
          `${input.name} goes in to taste: about how many grams were it? A guess is better than nothing, and is marked as one.`,
          { field: 'grams' },
        )
      : grams;
}
