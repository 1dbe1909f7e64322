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
  const leaving = groupBy(input.movements, fromLot);
  const lots = new Map<string, Reached>();
  const carried = new Set<Movement>();
  const queue: { lot: string; at: number; order: number }[] = [
    { lot: input.lot, at: input.from ?? -Infinity, order: -Infinity },
  ];
  for (let next = queue.shift(); next; next = queue.shift()) {
    for (const movement of leaving.get(next.lot) ?? []) {
      if (movement.at < next.at || (movement.at === next.at && movement.order < next.order)) continue;
      carried.add(movement);
      const lot = toLot(movement);
      if (lot === null) continue;
      const known = lots.get(lot);
      if (known && (known.at < movement.at || (known.at === movement.at && known.order <= movement.order))) continue;
      lots.set(lot, { lot, at: movement.at, order: movement.order, via: movement });
      queue.push({ lot, at: movement.at, order: movement.order });
    }
  }
  return { lots, via: [...carried].sort(inTime) };
}

/**
 * Everything a lot can hold something of, walked backward in time from `until` (default: now).
 * Source: handbook 5.3.
 */
export function ancestors(input: { movements: readonly Movement[]; lot: string; until?: number }): {
  lots: Map<string, Reached>;
  via: Movement[];
} {
  const arriving = groupBy(input.movements, toLot);
  const lots = new Map<string, Reached>();
  const carried = new Set<Movement>();
  const queue: { lot: string; at: number; order: number }[] = [
    { lot: input.lot, at: input.until ?? Infinity, order: Infinity },
  ];
  for (let next = queue.shift(); next; next = queue.shift()) {
    for (const movement of arriving.get(next.lot) ?? []) {
      if (movement.at > next.at || (movement.at === next.at && movement.order > next.order)) continue;
      carried.add(movement);
      const lot = fromLot(movement);
      if (lot === null) continue;
      const known = lots.get(lot);
      if (known && (known.at > movement.at || (known.at === movement.at && known.order >= movement.order))) continue;
      lots.set(lot, { lot, at: movement.at, order: movement.order, via: movement });
      queue.push({ lot, at: movement.at, order: movement.order });
    }
  }
  return { lots, via: [...carried].sort(inTime) };
}

function groupBy(movements: readonly Movement[], key: (movement: Movement) => string | null): Map<string, Movement[]> {
  const groups = new Map<string, Movement[]>();
  for (const movement of [...movements].sort(inTime)) {
    const lot = key(movement);
    if (lot !== null) (groups.get(lot) ?? groups.set(lot, []).get(lot)!).push(movement);
  }
  return groups;
}
