import { fromLot, inTime, toLot, type Movement } from './movement.js';

/** A lot reached by a walk, with the moment that counts and the movement it was reached by. */
export interface Reached {
  readonly lot: string;
  /** Forward: the earliest moment taint came in. Backward: the latest moment at which something left towards the start. */
  readonly at: number;
  readonly order: number;
  readonly via: Movement;
}

/**
 * Everything that can hold something of a lot, walked from movement to movement forward in time: what left
 * a lot before an inflow does not inherit it. Going and coming between two lots is lawful; every walk ends
 * because time does not run back. Source: handbook 5.3.
 *
 * `from` limits the start: only what left at or after that moment counts.
 * @returns each lot once, with its earliest taint, and every movement that carried it
 */
export function descendants(input: { movements: readonly Movement[]; lot: string; from?: number }): {
  lots: Map<string, Reached>;
  via: Movement[];
} {
  const { from = -Infinity } = input;
  return walk({
    movements: [...input.movements].sort(inTime),
    start: input.lot,
    inside: ({ at }) => at >= from,
    from: fromLot,
    to: toLot,
  });
}

/**
 * Everything a lot can hold something of, walked backward in time from `until` (default: now).
 * Source: handbook 5.3.
 */
export function ancestors(input: { movements: readonly Movement[]; lot: string; until?: number }): {
  lots: Map<string, Reached>;
  via: Movement[];
} {
  const { until = Infinity } = input;
  // The same walk with time running back.
  return walk({
    movements: [...input.movements].sort(inTime).reverse(),
    start: input.lot,
    inside: ({ at }) => at <= until,
    from: toLot,
    to: fromLot,
  });
}

/**
 * One pass over the movements in the order of the walk: a movement carries when what it leaves was reached before it, so
 * each lot is reached first by the movement that counts, and every movement is looked at once.
 */
function walk(input: {
  /** In the order of the walk. */
  movements: readonly Movement[];
  start: string;
  inside: (movement: Movement) => boolean;
  from: (movement: Movement) => string | null;
  to: (movement: Movement) => string | null;
}): { lots: Map<string, Reached>; via: Movement[] } {
  const { movements, start, inside, from, to } = input;
  const lots = new Map<string, Reached>();
  const via: Movement[] = [];
  for (const group of together(movements)) {
    // What one entry moves it moves at once: in whatever order it was written down.
    const leaving = new Map<string, Movement[]>();
    for (const movement of group) {
      const lot = from(movement);
      if (lot !== null) (leaving.get(lot) ?? leaving.set(lot, []).get(lot)!).push(movement);
    }
    const reached = [...leaving.keys()].filter((lot) => lots.has(lot) || (lot === start && inside(group[0]!)));
    for (let lot = reached.pop(); lot !== undefined; lot = reached.pop()) {
      const carried = leaving.get(lot) ?? [];
      leaving.delete(lot);
      for (const movement of carried) {
        via.push(movement);
        const next = to(movement);
        if (next === null) continue;
        if (!lots.has(next)) lots.set(next, { lot: next, at: movement.at, order: movement.order, via: movement });
        reached.push(next);
      }
    }
  }
  return { lots, via: via.sort(inTime) };
}

/** Movements of one moment and one entry, together. */
function together(movements: readonly Movement[]): Movement[][] {
  const groups: Movement[][] = [];
  for (const movement of movements) {
    const last = groups.at(-1);
    if (last && inTime(last[0]!, movement) === 0) last.push(movement);
    else groups.push([movement]);
  }
  return groups;
}
