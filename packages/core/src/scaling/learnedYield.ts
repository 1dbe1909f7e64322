/** What the house's last lots of a formula gave. Source: handbook 2.5. */
export interface LearnedYield {
  readonly median: number;
  readonly least: number;
  readonly most: number;
  readonly lots: number;
}

/** Median and spread of past yields; null without any. `learnedYield([0.8, 0.82, 0.81])?.median //=> 0.81` */
export function learnedYield(past: readonly number[]): LearnedYield | null {
  const sorted = past.filter((value) => value > 0 && value <= 1).sort((a, b) => a - b);
  if (sorted.length === 0) return null;
  const middle = sorted.length >> 1;
  const median = sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
  return { median, least: sorted[0]!, most: sorted[sorted.length - 1]!, lots: sorted.length };
}
