/** A temperature at the cold spot, so many minutes after the log began. */
export interface HeatPoint {
  readonly minute: number;
  readonly celsius: number;
}

/** Between two points further apart than this nobody knows how warm it was. Minutes. */
export const LONGEST_GAP_MINUTES = 2;

const STEPS = 20;

/** A stretch of a log, in its minutes. */
export interface HeatSpan {
  readonly from: number;
  readonly to: number;
}

const isGap = (a: HeatPoint, b: HeatPoint): boolean => b.minute - a.minute > LONGEST_GAP_MINUTES + 1e-9;

/**
 * Lethality F = Σ 10^((T − Tref)/z) · Δt in minutes: temperature straight from point to point, in twenty steps; nothing
 * is counted across a gap, nor below `fromC`. Source: handbook 8.5.
 */
export function lethality(
  points: readonly HeatPoint[],
  { refC, z, fromC = -Infinity }: { readonly refC: number; readonly z: number; readonly fromC?: number },
): number {
  let sum = 0;
  for (let i = 1; i < points.length; i += 1) {
    const [a, b] = [points[i - 1]!, points[i]!];
    if (isGap(a, b)) continue;
    const step = (b.minute - a.minute) / STEPS;
    for (let k = 0; k < STEPS; k += 1) {
      const celsius = a.celsius + ((k + 0.5) / STEPS) * (b.celsius - a.celsius);
      if (celsius >= fromC) sum += 10 ** ((celsius - refC) / z) * step;
    }
  }
  return sum;
}

/** Where a log stays at a temperature or above, as few stretches as tell it; a gap ends one. */
export function spansAtLeast(points: readonly HeatPoint[], celsius: number): HeatSpan[] {
  const found: { from: number; to: number }[] = [];
  const add = (from: number, to: number): void => {
    const before = found.at(-1);
    if (before && Math.abs(before.to - from) < 1e-9) before.to = to;
    else found.push({ from, to });
  };
  for (let i = 1; i < points.length; i += 1) {
    const [a, b] = [points[i - 1]!, points[i]!];
    if (isGap(a, b) || (a.celsius < celsius && b.celsius < celsius)) continue;
    const crossing = a.minute + ((celsius - a.celsius) / (b.celsius - a.celsius)) * (b.minute - a.minute);
    add(a.celsius >= celsius ? a.minute : crossing, b.celsius >= celsius ? b.minute : crossing);
  }
  return found;
}

/** Where nobody knows how warm it was. */
export const gapsOf = (points: readonly HeatPoint[]): HeatSpan[] =>
  points.flatMap((b, i) => (i > 0 && isGap(points[i - 1]!, b) ? [{ from: points[i - 1]!.minute, to: b.minute }] : []));

/** Boiling point of water, °C: about 1 °C less each 300 m. Source: handbook 4.3. */
export const boilingPoint = (altitudeM: number): number => 100 - altitudeM / 300;
