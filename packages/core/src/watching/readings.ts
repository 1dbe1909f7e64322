/** A pH as it was read. */
export interface PhPoint {
  readonly at: number;
  readonly ph: number;
  readonly sample: 'blended' | 'brine';
  /** Read with a meter fit for release. */
  readonly fit: boolean;
  /** Off the trend, and not repeated yet. */
  readonly doubtful?: boolean;
  /** Read before something was poured in: of another thing than what stands there now. */
  readonly beforeMixture?: boolean;
}

const isNumber = (ph: number): boolean => Number.isFinite(ph) && ph >= 0 && ph <= 14;

/**
 * Whether a reading may make anything milder: met, quiet trend, done, taste open, hold lifted, packable. Only
 * blended samples, by a meter fit for release, not doubtful, and of what stands there now. Every reading may make
 * something stricter. Source: handbook 3.3.
 */
export const counts = (point: PhPoint): boolean =>
  point.sample === 'blended' && point.fit && !point.doubtful && !point.beforeMixture && isNumber(point.ph);

/** Oldest first; of two readings of one moment the higher one comes last, and so decides. */
export const inOrderOfTime = <P extends PhPoint>(points: readonly P[]): P[] =>
  [...points].sort((a, b) => a.at - b.at || a.ph - b.ph);

/** The readings that count, oldest first, one for a moment: two of one moment are one, the higher. */
export function counting<P extends PhPoint>(points: readonly P[]): P[] {
  const sorted = inOrderOfTime(points.filter(counts));
  return sorted.filter((point, index) => sorted[index + 1]?.at !== point.at);
}

export interface PhStanding {
  /** The last reading that counts; null when there is none of what stands there now. */
  readonly counting: PhPoint | null;
  /** The last reading of any kind, as a page shows it. */
  readonly last: PhPoint | null;
  /**
   * The pH a strict eye takes: the last that counts, or whatever stood higher since. Without one that counts, the
   * highest of all. Null when it was never read.
   */
  readonly strict: number | null;
}

/** Where a vessel's pH stands, for the lenient and for the strict. Source: handbook 3.3. */
export function phStanding(points: readonly PhPoint[]): PhStanding {
  const known = inOrderOfTime(points.filter(({ ph }) => isNumber(ph)));
  const last = known.at(-1) ?? null;
  const counted = counting(points).at(-1) ?? null;
  const own = known.filter(({ beforeMixture }) => !beforeMixture);
  // Nothing is read of the mixture yet: a strict eye takes what stood there before it, which proves nothing.
  if (own.length === 0 && known.length > 0)
    return {
      counting: null,
      last,
      strict: phStanding(known.map((point) => ({ ...point, beforeMixture: false }))).strict,
    };
  const since = own.filter(({ at }) => !counted || at >= counted.at);
  return { counting: counted, last, strict: since.length > 0 ? Math.max(...since.map(({ ph }) => ph)) : null };
}
