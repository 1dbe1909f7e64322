/** Yields as fractions in (0, 1]. Source: handbook 2.5. */
export interface Yields {
  readonly trim: number;
  readonly ferment: number;
  readonly pack: number;
  /** Straining, sieving, blending; 1 where nothing is finished. */
  readonly finish?: number;
}

export interface JarOrder {
  readonly sizeMl: number;
  readonly count: number;
  /** Net mass of a full jar. */
  readonly fillGrams: number;
}

export interface YieldChain {
  readonly filledGrams: number;
  readonly solidsInJarsGrams: number;
  readonly drainedGrams: number;
  readonly trimmedGrams: number;
  readonly boughtGrams: number;
}

/**
 * From jars back to what to buy: jars × fill × solids ÷ pack ÷ finish ÷ ferment ÷ trim. Nothing is rounded.
 * Source: handbook 2.5, worked case W18.
 * @throws {RangeError} a yield outside (0, 1]
 */
export function chainFromJars(input: {
  jars: readonly JarOrder[];
  solidsFraction: number;
  yields: Yields;
}): YieldChain {
  const { yields } = input;
  checkYields(yields);
  const filledGrams = input.jars.reduce((sum, jar) => sum + jar.count * jar.fillGrams, 0);
  const solidsInJarsGrams = filledGrams * input.solidsFraction;
  const drainedGrams = solidsInJarsGrams / yields.pack / (yields.finish ?? 1);
  const trimmedGrams = drainedGrams / yields.ferment;
  return { filledGrams, solidsInJarsGrams, drainedGrams, trimmedGrams, boughtGrams: trimmedGrams / yields.trim };
}

/** From a trimmed mass forward to what the jars would hold. The way back of `chainFromJars`. */
export function chainFromTrimmed(input: { trimmedGrams: number; solidsFraction: number; yields: Yields }): YieldChain {
  const { yields, trimmedGrams } = input;
  checkYields(yields);
  const drainedGrams = trimmedGrams * yields.ferment;
  const solidsInJarsGrams = drainedGrams * yields.pack * (yields.finish ?? 1);
  return {
    filledGrams: solidsInJarsGrams / input.solidsFraction,
    solidsInJarsGrams,
    drainedGrams,
    trimmedGrams,
    boughtGrams: trimmedGrams / yields.trim,
  };
}

function checkYields(yields: Yields): void {
  for (const [name, value] of Object.entries(yields) as [string, number | undefined][]) {
    if (value === undefined) continue;
    if (!(value > 0 && value <= 1)) throw new RangeError(`the ${name} yield lies in (0, 1]; ${value} was given`);
  }
}
