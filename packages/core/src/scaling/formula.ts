import type { SaltBasis } from '../salt/bases.js';
import type { JarOrder, Yields } from './yieldChain.js';

/** What a line of a formula is counted on. Source: handbook 2.5. */
export const SCALE_BY = ['mainMass', 'everything', 'saltMass', 'batch'] as const;
export type ScaleBy = (typeof SCALE_BY)[number];

export interface FormulaLine {
  readonly materialId: string;
  readonly name: string;
  readonly scaleBy: ScaleBy;
  /** A fraction of what it is counted on; grams when counted per batch. */
  readonly amount: number;
  readonly waterFraction?: number;
  readonly saltFraction?: number;
}

export interface ProducePart {
  readonly materialId: string;
  readonly name: string;
  /** Share of the trimmed produce; all shares add up to one. */
  readonly share: number;
  readonly waterFraction?: number;
}

export interface ScalableFormula {
  readonly produce: readonly ProducePart[];
  readonly saltBasis: SaltBasis;
  readonly saltFraction: number;
  /** Grams of added water per gram of trimmed produce; 0 for dry salting. */
  readonly waterPerProduce: number;
  readonly lines: readonly FormulaLine[];
  readonly solidsFraction: number;
  readonly yields: Yields;
}

export type ScaleTarget = { readonly from: 'jars'; readonly jars: readonly JarOrder[] } | { readonly from: 'trimmed'; readonly trimmedGrams: number };
