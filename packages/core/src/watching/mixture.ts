/** Something that was put into a vessel after it was filled. */
export interface Joined {
  readonly at: number;
  readonly grams: number;
  /** Contents before it, g. */
  readonly intoGrams: number;
  /** Brine or water of the house: a little of it is no mixture. Anything from another vessel is. */
  readonly what: 'brine' | 'vessel';
}

/** Brine or water of the house up to this share of the contents is no mixture. Source: handbook 3.3. */
export const MIXTURE_SHARE = 0.02;

/**
 * When a vessel last became a new thing: what was read before no longer counts for anything milder. Small top-ups
 * add up until a reading counts again. Null when it never did. Moments in ms. Source: handbook 3.3.
 * @param input.readAt moments of readings that would count if nothing had been poured in
 */
export function mixedAt(input: {
  readonly joined: readonly Joined[];
  readonly readAt: readonly number[];
}): number | null {
  const joined = [...input.joined].sort((a, b) => a.at - b.at);
  let [mixed, small, since]: [number | null, number, number] = [null, 0, -Infinity];
  for (const { at, grams, intoGrams, what } of joined) {
    if (input.readAt.some((read) => read > since && read <= at)) small = 0;
    since = at;
    const share = intoGrams > 0 ? grams / intoGrams : Infinity;
    small += what === 'brine' ? share : 0;
    // Under 2 % is no mixture; what is no number is one.
    if (what === 'brine' && small < MIXTURE_SHARE - 1e-9) continue;
    mixed = at;
    small = 0;
  }
  return mixed;
}

/** A part of a mixture: since when it stands, and whether its acid had come in time before it was mixed. */
export interface MixedPart {
  readonly filledAt: number;
  readonly met: boolean;
}

/**
 * From when the deadline of a mixture counts: of the parts whose acid had not come yet, the youngest one. Null when all
 * parts had met it before. Source: handbook 3.3.
 */
export function clockOf(parts: readonly MixedPart[]): number | null {
  const open = parts.filter(({ met }) => !met).map(({ filledAt }) => filledAt);
  return open.length > 0 ? Math.max(...open) : null;
}
