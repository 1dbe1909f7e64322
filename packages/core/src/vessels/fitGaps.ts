import { stepMl, type FitType } from './fitSearch.js';

/**
 * When no set holds the whole batch: the set that takes the most of it, with the fewest vessels.
 * Empty when even the smallest window asks for more than there is.
 */
export function fullestUnder(input: { batchMl: number; types: readonly FitType[] }): number[][] {
  const { batchMl, types } = input;
  const step = stepMl(batchMl);
  // Rooms rounded down: what is said to go in goes in.
  const sums = reach(types, (type) => Math.floor(type.mostMl / step), Math.floor(batchMl / step));
  // The smallest vessel of all may be larger than the batch and still have a window below it.
  for (let m = sums.best.length - 1; m > 0; m -= 1) {
    if (sums.best[m]! < Infinity) return [sums.counts(m)];
  }
  return [];
}

/** The least that is more than the batch and lies inside the window of some set; null when there is none. */
export function leastOver(input: { batchMl: number; types: readonly FitType[] }): number | null {
  const { batchMl, types } = input;
  const largest = Math.max(0, ...types.map((type) => type.leastMl));
  const step = stepMl(batchMl + largest);
  const most = Math.ceil((batchMl + largest) / step);
  const sums = reach(types, (type) => Math.ceil(type.leastMl / step), most);
  for (let m = Math.ceil(batchMl / step); m <= most; m += 1) {
    if (sums.best[m]! < Infinity)
      return sums.counts(m).reduce((sum, count, index) => sum + count * types[index]!.leastMl, 0);
  }
  return null;
}

/** Which sums of rooms can be reached, with the fewest vessels, and how. */
function reach(
  types: readonly FitType[],
  steps: (type: FitType) => number,
  most: number,
): { best: Float64Array; counts: (m: number) => number[] } {
  const layers: Float64Array[] = [Float64Array.from({ length: most + 1 }, (_, m) => (m === 0 ? 0 : Infinity))];
  for (const type of types) {
    const last = layers[layers.length - 1]!;
    const next = Float64Array.from(last);
    const room = steps(type);
    for (let c = 1; c <= type.count; c += 1) {
      for (let m = c * room; m <= most; m += 1) next[m] = Math.min(next[m]!, last[m - c * room]! + c);
    }
    layers.push(next);
  }
  return {
    best: layers[layers.length - 1]!,
    counts: (m) => {
      const counts: number[] = [];
      for (let t = types.length - 1, left = m; t >= 0; t -= 1) {
        const room = steps(types[t]!);
        const c = Array.from({ length: types[t]!.count + 1 }, (_, n) => n).find(
          (n) => left >= n * room && layers[t]![left - n * room]! + n === layers[t + 1]![left],
        )!;
        counts[t] = c;
        left -= c * room;
      }
      return counts;
    },
  };
}
