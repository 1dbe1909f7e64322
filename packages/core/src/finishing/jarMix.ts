export interface JarSize {
  readonly sizeMl: number;
  readonly fillGrams: number;
  /** Jars somebody has ordered: these come first. */
  readonly ordered: number;
}

/**
 * Jars per size that use a batch up with the least left, ordered counts first; of equal rests the fewest jars.
 * What the orders ask beyond the batch is said as missing grams. Source: handbook 2.7.
 * @throws {RangeError} a jar that holds nothing
 * @example jarMix({ massGrams: 2000, sizes: [{ sizeMl: 330, fillGrams: 320, ordered: 0 }, { sizeMl: 720, fillGrams: 690, ordered: 1 }] }).jars //=> 4 small, 1 large: 30 g left
 */
export function jarMix(input: { massGrams: number; sizes: readonly JarSize[] }): {
  jars: { sizeMl: number; fillGrams: number; count: number }[];
  leftGrams: number;
  missingGrams: number;
} {
  const { massGrams, sizes } = input;
  if (sizes.length === 0 || sizes.some((size) => !(size.fillGrams > 0)))
    throw new RangeError('a jar holds more than nothing');
  const ordered = sizes.reduce((sum, size) => sum + size.ordered * size.fillGrams, 0);
  const free = massGrams - ordered;
  const more = free > 0 ? leastLeft(free, sizes) : { counts: sizes.map(() => 0), left: 0 };
  return {
    jars: sizes.map(({ sizeMl, fillGrams, ordered: wanted }, index) => ({
      sizeMl,
      fillGrams,
      count: wanted + more.counts[index]!,
    })),
    leftGrams: free > 0 ? more.left : 0,
    missingGrams: Math.max(0, -free),
  };
}

/** Cells of the table: of a large batch in odd masses the last hundredths are rounded up. */
const MOST_STEPS = 5_000_000;

/** Masses as whole numbers of one step that divides all of them: 317.5 g and 690 g go in steps of 2.5 g. */
function inSteps(massGrams: number, sizes: readonly JarSize[]): { steps: number; rooms: number[] } {
  for (const decimals of [2, 1, 0]) {
    const whole = sizes.map(({ fillGrams }) => Math.ceil(fillGrams * 10 ** decimals - 1e-6));
    const step = whole.reduce(gcd);
    const steps = Math.floor((massGrams * 10 ** decimals) / step + 1e-9);
    if (steps <= MOST_STEPS || decimals === 0) return { steps, rooms: whole.map((one) => one / step) };
  }
  throw new RangeError('unreachable');
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** Whole jars by dynamic programming: the fullest sum under the mass, with the fewest jars. */
function leastLeft(massGrams: number, sizes: readonly JarSize[]): { counts: number[]; left: number } {
  const { steps, rooms } = inSteps(massGrams, sizes);
  const fewest = new Float64Array(steps + 1).fill(Infinity);
  const last = new Int16Array(steps + 1).fill(-1);
  fewest[0] = 0;
  for (let m = 1; m <= steps; m += 1) {
    rooms.forEach((room, index) => {
      const from = m - room;
      if (from >= 0 && fewest[from]! + 1 < fewest[m]!) {
        fewest[m] = fewest[from]! + 1;
        last[m] = index;
      }
    });
  }
  let m = steps;
  while (m > 0 && fewest[m] === Infinity) m -= 1;
  const counts = sizes.map(() => 0);
  for (let at = m; at > 0; at -= rooms[last[at]!]!) counts[last[at]!]! += 1;
  return { counts, left: massGrams - sizes.reduce((sum, size, index) => sum + size.fillGrams * counts[index]!, 0) };
}
