/** A movement as the ledger keeps it, and whether it still counts. */
export interface Moved {
  readonly id: number;
  readonly seq: number;
  readonly at: number;
  readonly from: string | null;
  readonly to: string | null;
  readonly milligrams: number;
}

const notBefore = (a: Moved, b: { at: number; seq: number }): boolean =>
  a.at > b.at || (a.at === b.at && a.seq >= b.seq);
const notAfter = (a: Moved, b: { at: number; seq: number }): boolean =>
  a.at < b.at || (a.at === b.at && a.seq <= b.seq);

/**
 * Which movements a lot's contents took part in after it, or before it: every movement is looked at again and again until
 * nothing is found any more. The rule alone, no index, no query. Source: handbook 5.3, rules of taint.
 */
export function slowWalk(all: readonly Moved[], subject: string, way: 'forward' | 'back'): Set<number> {
  const found = new Set<number>();
  for (let before = -1; before !== found.size;) {
    before = found.size;
    for (const move of all) {
      if (found.has(move.id) || move.from === null || move.to === null) continue;
      const [here, fits] = way === 'forward' ? [move.from, notBefore] : [move.to, notAfter];
      const reached =
        here === subject ||
        all.some((one) => found.has(one.id) && (way === 'forward' ? one.to : one.from) === here && fits(move, one));
      if (reached) found.add(move.id);
    }
  }
  return found;
}

/**
 * How much of the subject each movement carries, milligrams: every lot is a bowl of equal spoons, of which a spoon is of
 * the subject or is not. Source: handbook 5.3, mixing.
 */
export function slowCarried(all: readonly Moved[], subject: string): Map<number, number> {
  const bowls = new Map<string, { of: number; other: number }>();
  const bowl = (lot: string): { of: number; other: number } => {
    if (!bowls.has(lot)) bowls.set(lot, { of: 0, other: 0 });
    return bowls.get(lot)!;
  };
  const carried = new Map<number, number>();
  for (const move of [...all].sort((a, b) => a.at - b.at || a.id - b.id)) {
    let of = 0;
    if (move.from === subject) of = move.milligrams;
    else if (move.from !== null) {
      const { of: in_, other } = bowl(move.from);
      const part = in_ + other > 0 ? Math.min(1, move.milligrams / (in_ + other)) : 0;
      of = in_ * part;
      bowls.set(move.from, { of: in_ - in_ * part, other: other - other * part });
    }
    carried.set(move.id, of);
    if (move.to !== null && move.to !== subject) {
      bowl(move.to).of += of;
      bowl(move.to).other += move.milligrams - of;
    }
  }
  return carried;
}

/** A stay in a vessel, for what one fill leaves to the next. */
export interface Stay {
  readonly lot: string;
  readonly vessel: string;
  readonly at: number;
  readonly seq: number;
  readonly closedAt: number;
}

/** The lots a suspect reaches with what uncleaned vessels passed on: the next stay only, and all that was made of it. */
export function slowCarryOver(
  all: readonly Moved[],
  stays: readonly Stay[],
  cleanings: readonly { vessel: string; at: number }[],
  subject: string,
): Set<string> {
  const madeOf = (lot: string): string[] => {
    const way = slowWalk(all, lot, 'forward');
    return [lot, ...all.filter(({ id }) => way.has(id)).map(({ to }) => to!)];
  };
  const found = new Set(madeOf(subject));
  for (let before = 0; before !== found.size;) {
    before = found.size;
    for (const stay of stays.filter(({ lot }) => found.has(lot))) {
      const next = stays
        .filter((one) => one.vessel === stay.vessel && (one.at - stay.at || one.seq - stay.seq) > 0)
        .sort((a, b) => a.at - b.at || a.seq - b.seq)[0];
      const cleaned = cleanings.some(
        (one) => next && one.vessel === stay.vessel && one.at >= stay.closedAt && one.at <= next.at,
      );
      if (next && !cleaned) madeOf(next.lot).forEach((lot) => found.add(lot));
    }
  }
  return found;
}
