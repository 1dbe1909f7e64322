import TinyQueue from 'tinyqueue';
/** Vessels that are alike, and how many there are. Millilitres. */
export interface FitType {
  readonly count: number;
  readonly leastMl: number;
  readonly mostMl: number;
  /** Brim less weights: what is not contents in it is air. */
  readonly roomMl: number;
}

/** Steps in which room is counted: 50 mL, finer for small batches in small jars. Source: handbook 2.6. */
export const stepMl = (ml: number): number => Math.min(50, Math.max(1, Math.floor(ml / 4000)));
/** More vessels than the fewest possible are looked at, for alternatives. */
const MORE_VESSELS = 3;
/**
 * Nodes looked at per number of vessels before the search is cut off: so many tell the best of 60 vessels exactly; of
 * more, all different, a set near it is taken.
 */
const MOST_NODES = 60_000;
const EXACT_TYPES = 60;
const NODES_OF_MANY = 4000;

/**
 * Sets of vessels that hold the whole batch, each inside its window: fewest vessels first, then the least
 * air. Each answer counts vessels per type.
 *
 * For a number of vessels two tables say how little room, and how little lowest filling, the types from one
 * on can add while they still take so much. Rooms are rounded up in the tables, so they never promise too
 * little to cut off a good set; best-first search over them ends at sets checked to the millilitre.
 */
export function bestSets(input: { batchMl: number; types: readonly FitType[]; wanted: number }): number[][] {
  const { batchMl, types, wanted } = input;
  const all = types.reduce((sum, type) => sum + type.count, 0);
  const fewest = fewestVessels(batchMl, types);
  if (fewest === Infinity) return [];
  const most = Math.min(all, fewest + MORE_VESSELS);
  // The tables do not ask how many vessels there are in all: they are made once for every number that is looked at.
  const bounds = {
    rooms: boundsOf(types, most, batchMl, (type) => type.roomMl),
    leasts: boundsOf(types, most, batchMl, (type) => type.leastMl),
  };
  const leastsUp = types.flatMap((type) => Array<number>(type.count).fill(type.leastMl)).sort((a, b) => a - b);
  let leastOfAll = leastsUp.slice(0, fewest - 1).reduce((sum, ml) => sum + ml, 0);
  const found: number[][] = [];
  for (let k = fewest; k <= all && found.length < wanted && (found.length === 0 || k <= most); k += 1) {
    // Even the lowest fillings of so many vessels ask for more than there is: so do those of more vessels.
    leastOfAll += leastsUp[k - 1]!;
    if (leastOfAll > batchMl + 1e-9) break;
    const own =
      k <= most
        ? bounds
        : {
            rooms: boundsOf(types, k, batchMl, (type) => type.roomMl),
            leasts: boundsOf(types, k, batchMl, (type) => type.leastMl),
          };
    found.push(...setsOf({ batchMl, types, k, wanted: wanted - found.length, ...own }));
  }
  return found;
}

function fewestVessels(batchMl: number, types: readonly FitType[]): number {
  let left = batchMl;
  let k = 0;
  for (const type of types) {
    const take = Math.min(type.count, Math.ceil((left - 1e-9) / type.mostMl));
    k += take;
    left -= take * type.mostMl;
    if (left <= 1e-9) return k;
  }
  return Infinity;
}

/** A choice for the types before `type`; how many of the last one were taken, and the choice before it. */
interface Node {
  readonly type: number;
  readonly taken: number;
  readonly before: Node | null;
  readonly k: number;
  readonly most: number;
  readonly least: number;
  readonly room: number;
  readonly bound: number;
}

function setsOf(input: {
  batchMl: number;
  types: readonly FitType[];
  k: number;
  wanted: number;
  rooms: Bound;
  leasts: Bound;
}): number[][] {
  const { batchMl, types, k, wanted, rooms, leasts } = input;
  const queue = new TinyQueue<Node>([], before);
  const push = (node: Omit<Node, 'bound'>): void => {
    const more = rooms(node.type, k - node.k, batchMl - node.most);
    const least = leasts(node.type, k - node.k, batchMl - node.most);
    if (more === Infinity || node.least + least > batchMl + 1e-9) return;
    queue.push({ ...node, bound: node.room + more });
  };
  push({ type: 0, taken: 0, before: null, k: 0, most: 0, least: 0, room: 0 });
  const found: number[][] = [];
  const nodes = types.length > EXACT_TYPES ? NODES_OF_MANY : MOST_NODES;
  let isWhole = false;
  for (let looked = 0; looked < nodes; looked += 1) {
    const node = queue.pop();
    isWhole = !node;
    if (!node) break;
    if (node.type === types.length) {
      // Rounded rooms may have let a set through that is a few millilitres short.
      if (node.most >= batchMl - 1e-9) found.push(countsOf(node));
      if (found.length >= wanted) break;
      continue;
    }
    const type = types[node.type]!;
    for (let c = 0; c <= Math.min(type.count, k - node.k); c += 1) {
      push({
        type: node.type + 1,
        taken: c,
        before: node,
        k: node.k + c,
        most: node.most + c * type.mostMl,
        least: node.least + c * type.leastMl,
        room: node.room + c * type.roomMl,
      });
    }
  }
  const near = found.length === 0 && !isWhole ? nearSet(input) : null;
  return near ? [near] : found;
}

/**
 * A set near the best, where too many different vessels stand there to look through all sets: the largest so many, each
 * then exchanged for a smaller one while the batch still goes in. Null where such a set stays under its windows.
 */
function nearSet({
  batchMl,
  types,
  k,
}: {
  readonly batchMl: number;
  readonly types: readonly FitType[];
  readonly k: number;
}): number[] | null {
  const counts = types.map(() => 0);
  let [chosen, most] = [0, 0];
  // Types stand with the largest first.
  for (const [index, type] of types.entries())
    for (; counts[index]! < type.count && chosen < k; chosen += 1, most += type.mostMl) counts[index]! += 1;
  if (chosen < k || most < batchMl - 1e-9) return null;
  const smallestFirst = types.map((_, index) => index).sort((a, b) => types[a]!.roomMl - types[b]!.roomMl);
  for (const out of types.keys())
    while (counts[out]! > 0) {
      const spare = most - batchMl - types[out]!.mostMl;
      const into = smallestFirst.find(
        (index) =>
          counts[index]! < types[index]!.count &&
          types[index]!.roomMl < types[out]!.roomMl &&
          spare + types[index]!.mostMl >= -1e-9,
      );
      if (into === undefined) break;
      counts[out]! -= 1;
      counts[into]! += 1;
      most += types[into]!.mostMl - types[out]!.mostMl;
    }
  const least = types.reduce((sum, type, index) => sum + counts[index]! * type.leastMl, 0);
  return least <= batchMl + 1e-9 ? counts : null;
}

function countsOf(node: Node): number[] {
  const counts: number[] = [];
  for (let at: Node | null = node; at?.before; at = at.before) counts[at.type - 1] = at.taken;
  return counts;
}

type Bound = (type: number, more: number, roomMl: number) => number;
/** Cells of one table: 8 bytes each. */
const MOST_CELLS = 2_500_000;

/**
 * The least of a quantity that exactly so many more vessels from a type on add, when they take at least so many mL.
 * Steps grow with the batch, so that a large one stays quick and small: a wider step only bounds less sharply.
 */
function boundsOf(types: readonly FitType[], k: number, batchMl: number, of: (type: FitType) => number): Bound {
  const step = Math.max(stepMl(batchMl), Math.ceil((batchMl * (types.length + 1) * (k + 1)) / MOST_CELLS));
  const steps = Math.ceil(batchMl / step);
  const width = steps + 1;
  const layer = (k + 1) * width;
  const table = new Float64Array((types.length + 1) * layer).fill(Infinity);
  table[types.length * layer] = 0;
  for (let t = types.length - 1; t >= 0; t -= 1) {
    const type = types[t]!;
    const room = Math.ceil(type.mostMl / step);
    const adds = of(type);
    for (let more = 0; more <= k; more += 1) {
      for (let c = 0; c <= Math.min(type.count, more); c += 1) {
        const target = t * layer + more * width;
        const source = (t + 1) * layer + (more - c) * width;
        for (let m = 0; m <= steps; m += 1) {
          const rest = table[source + Math.max(0, m - c * room)]! + c * adds;
          if (rest < table[target + m]!) table[target + m] = rest;
        }
      }
    }
  }
  return (type, more, roomMl) =>
    more < 0 ? Infinity : table[type * layer + more * width + Math.max(0, Math.ceil(roomMl / step - 1e-9))]!;
}

/** Least bound first; of equal bounds the one further on. */
const before = (a: Node, b: Node): number => a.bound - b.bound || b.type - a.type;
