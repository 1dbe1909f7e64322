/** A movement between lots, or out of one into a sink (`to` null). */
export interface CarriedMovement {
  readonly at: number;
  readonly order: number;
  readonly from: string | null;
  readonly to: string | null;
  readonly grams: number;
}

/**
 * How much of a lot went along each movement after it left that lot: a vessel gives on, with every gram it gives, the
 * part of it that came from there. Keys are the orders of the movements. All movements into and out of the lots on the
 * way are needed, not only those of the way. Source: handbook 5.3.
 *
 * @example carriedMass({ subject: 'pepper', movements: [pepper into batch 10 g, produce into batch 990 g, batch into vessel 500 g] }) //=> 10 g, 0 g, 5 g
 */
export function carriedMass(input: {
  readonly subject: string;
  readonly movements: readonly CarriedMovement[];
}): Map<number, number> {
  const standing = new Map<string, { grams: number; carried: number }>();
  const at = (lot: string): { grams: number; carried: number } => standing.get(lot) ?? { grams: 0, carried: 0 };
  const found = new Map<number, number>();
  for (const { order, from, to, grams } of [...input.movements].sort((a, b) => a.at - b.at || a.order - b.order)) {
    const source = from === null ? null : at(from);
    // A weighing may find a little more than the book has: never more goes on than came.
    const carried =
      from === input.subject
        ? grams
        : source && source.grams > 0
          ? Math.min(source.carried, (grams * source.carried) / source.grams)
          : 0;
    found.set(order, carried);
    if (source && from !== input.subject)
      standing.set(from!, { grams: Math.max(0, source.grams - grams), carried: Math.max(0, source.carried - carried) });
    if (to !== null && to !== input.subject)
      standing.set(to, { grams: at(to).grams + grams, carried: at(to).carried + carried });
  }
  return found;
}
