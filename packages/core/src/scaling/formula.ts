import type { HeavyCut } from '../salt/heavySalt.js';
import type { SaltBasis } from '../salt/bases.js';
import type { Form } from '../vessels/forms.js';
import type { JarOrder, Yields } from './yieldChain.js';

/** What a line of a formula is counted on. Source: handbook 2.5. */
export const SCALE_BY = [
  'mainMass',
  'everything',
  'saltMass',
  'vesselVolume',
  'vessel',
  'jar',
  'batch',
  'finishedMass',
  'toTaste',
] as const;
export type ScaleBy = (typeof SCALE_BY)[number];

/** Lines whose amount is a fraction of a mass; the amounts of all others are grams per one of something. */
export const BY_FRACTION: ReadonlySet<ScaleBy> = new Set(['mainMass', 'everything', 'saltMass', 'finishedMass']);

export const SCALE_WORDS: Record<ScaleBy, string> = {
  mainMass: 'per kg of trimmed produce',
  everything: 'per kg of produce and water',
  saltMass: 'per 100 g of salt',
  vesselVolume: 'per litre of filled vessel',
  vessel: 'per vessel',
  jar: 'per jar, at packing',
  batch: 'per batch',
  finishedMass: 'per kg finished, at finishing',
  toTaste: 'to taste, recorded only',
};

export interface FormulaLine {
  readonly materialId: string;
  readonly name: string;
  readonly scaleBy: ScaleBy;
  /**
   * A fraction of what it is counted on; grams per litre, vessel, jar or batch for the others.
   * Null is a hole: nobody has said how much.
   */
  readonly amount: number | null;
  readonly waterFraction?: number;
  readonly saltFraction?: number;
  /** Counted in whole pieces of so many grams. */
  readonly pieceGrams?: number | null;
  readonly pieceName?: string | null;
  /** Below 1 for strong aromatics: twice the produce takes less than twice of it. */
  readonly exponent?: number;
  /** A jar line: the jar its amount is for, mL; other sizes in proportion. */
  readonly perMl?: number | null;
  /** Usual range, in the unit of `amount`. */
  readonly least?: number | null;
  readonly most?: number | null;
  /** Of animal origin or from an earlier batch: its hole keeps a batch from starting. */
  readonly isStarter?: boolean;
  /** Only in these variants; null is in all. */
  readonly variants?: readonly string[] | null;
  /** The words of the recipe it came from. */
  readonly written?: string | null;
  readonly note?: string | null;
}

export interface ProducePart {
  readonly materialId: string;
  readonly name: string;
  /** Share of the trimmed produce; all shares add up to one. */
  readonly share: number;
  readonly waterFraction?: number;
  /** Grams of one whole head or root as bought, where heads are bought whole. */
  readonly pieceGrams?: number | null;
}

/** Heavy salt, rest and rinse before the paste. The formula's salt fraction is then the heavy dose. Source: handbook 2.3. */
export interface HeavySchool {
  readonly minutes: number;
  readonly cut: HeavyCut;
  readonly rinses: number;
  readonly litresPerKg: number;
  /** Drained leaf per trimmed leaf. */
  readonly drainYield: number;
  /** Water-phase salt wanted once leaf and paste have evened out. */
  readonly wanted: number;
}

export interface ScalableFormula {
  readonly produce: readonly ProducePart[];
  /** Null: the recipe does not say which of the four. */
  readonly saltBasis: SaltBasis | null;
  readonly saltFraction: number | null;
  /** Grams of added water per gram of trimmed produce; 0 for dry salting, null when nobody has said. */
  readonly waterPerProduce: number | null;
  readonly lines: readonly FormulaLine[];
  readonly solidsFraction: number;
  readonly yields: Yields;
  readonly form?: Form;
  readonly heavy?: HeavySchool | null;
  /** Heated, to stand warm: its steps have to say how. */
  readonly heated?: boolean;
  readonly steps?: readonly { readonly words: string }[];
  /** Trimmed mass the amounts were found with, from which exponents count. */
  readonly referenceGrams?: number;
}

/** A vessel as a target: what of it can be used. */
export interface TargetVessel {
  readonly tag: string;
  readonly brimMl: number;
  readonly maxFill: number;
  readonly weightVolumeMl: number;
}

/** What a person starts from. Source: handbook 2.5. */
export type ScaleTarget =
  | { readonly from: 'jars'; readonly jars: readonly JarOrder[] }
  | { readonly from: 'trimmed'; readonly trimmedGrams: number }
  | { readonly from: 'bought'; readonly boughtGrams: number }
  | { readonly from: 'vessels'; readonly vessels: readonly TargetVessel[] }
  | { readonly from: 'stock'; readonly materialId: string; readonly grams: number };
