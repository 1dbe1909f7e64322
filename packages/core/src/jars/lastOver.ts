import TinyQueue from 'tinyqueue';

/** Serials of one run, both ends with it. */
export interface Serials {
  readonly first: number;
  readonly last: number;
}

/**
 * Over each stretch of a range the last of the things that cover it, from the first serial to the last; `of` null where
 * nothing does. One sweep along the serials: it costs what the things cost to sort, however many there are.
 * @param inOrder earlier things before later ones
 */
export function lastOver<T extends Serials>(
  range: Serials,
  things: readonly T[],
  inOrder: (a: T, b: T) => number,
): (Serials & { readonly of: T | null })[] {
  const within = things.filter(({ first, last }) => first <= last && last >= range.first && first <= range.last);
  const starting = [...within].sort((a, b) => a.first - b.first);
  const edges = new Set([range.first, range.last + 1]);
  for (const { first, last } of within) {
    if (first > range.first) edges.add(first);
    if (last < range.last) edges.add(last + 1);
  }
  // The latest of what covers the serial on top; what has ended is taken off when it comes up.
  const covering = new TinyQueue<T>([], (a, b) => inOrder(b, a));
  const found: (Serials & { of: T | null })[] = [];
  const cuts = [...edges].sort((a, b) => a - b);
  let next = 0;
  for (const [i, first] of cuts.slice(0, -1).entries()) {
    for (; next < starting.length && starting[next]!.first <= first; next += 1) covering.push(starting[next]!);
    while (covering.length > 0 && covering.peek()!.last < first) covering.pop();
    found.push({ first, last: cuts[i + 1]! - 1, of: covering.peek() ?? null });
  }
  return found;
}
