/** What of a material a finish asks: whether it feeds the ferment again. */
export interface MaybeSweet {
  readonly name: string;
  readonly kind: string;
  readonly standsFor?: string | null;
  readonly group?: string | null;
  /** Grams in a kilogram. */
  readonly sugarPerKg?: number | null;
}

/** A movement of what feeds a ferment again. */
export const FEEDING = 'finish.sweet';

/** Grams of sugar in a kilogram above which an addition feeds a ferment again. A vinegar or a spice stays below. */
const FEEDS = 50;

/**
 * Whether an addition after fermentation starts it again: sugar, honey, syrup, fruit, or what is known to hold sugar.
 * Where nothing is known of it a person has said what it is. Source: handbook 4.2.
 */
export const feeds = (material: MaybeSweet, as: string): boolean =>
  as === 'sweet' ||
  material.standsFor === 'sweet' ||
  // Fresh produce of which nobody said what it is may be fruit.
  (material.kind === 'produce' && (material.group ?? 'fruit') === 'fruit') ||
  (material.sugarPerKg ?? 0) >= FEEDS;

/** Preparations with starch or sugar of their own: whatever they are called, they feed a ferment again. */
const FEEDING_FORMS: ReadonlySet<string> = new Set(['paste', 'porridge', 'puree', 'starterLiquor']);

/** Whether a preparation feeds; brines and what came off a ferment do not. */
export const preparationFeeds = (form: string | null, as: string): boolean =>
  as === 'sweet' || FEEDING_FORMS.has(form ?? '');
