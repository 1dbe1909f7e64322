import { lastOver, type Serials } from './lastOver.js';

/** Where a jar is. `place` is a room of the house; `customer` has it; `gone` it is no more. */
export type JarAt =
  | { readonly kind: 'house'; readonly roomId: string | null }
  | { readonly kind: 'customer'; readonly customerId: string; readonly dispatchId: string }
  | { readonly kind: 'gone'; readonly how: GoneHow };

/** Ways a jar goes without being sold to somebody by name. Source: handbook 4.4, 4.5, 7. */
export const GONE_WAYS = ['market', 'given', 'staff', 'broken', 'opened', 'thrownOut', 'levelling'] as const;
export type GoneHow = (typeof GONE_WAYS)[number];
export const GONE_WORDS: Readonly<Record<GoneHow, string>> = {
  market: 'sold at a market',
  given: 'given away',
  staff: 'eaten in the house',
  broken: 'broken',
  opened: 'opened to look',
  thrownOut: 'thrown out',
  levelling: 'topped up its siblings',
};
/** Ways that somebody writes down of a jar; the rest follow from work of another kind. */
export const GONE_SAID = GONE_WAYS.filter((how) => how !== 'levelling') as Exclude<GoneHow, 'levelling'>[];

export type { Serials } from './lastOver.js';

export interface JarMove extends Serials {
  readonly at: number;
  /** The journal's order, for moves of one moment. */
  readonly order: number;
  readonly to: JarAt;
}

export interface JarSegment extends Serials {
  readonly where: JarAt;
  /** Since when; null: since it was packed. */
  readonly since: number | null;
}

export const countOf = ({ first, last }: Serials): number => last - first + 1;

const AT_PACKING: JarAt = { kind: 'house', roomId: null };

/**
 * Where each jar of a run is after its moves, as few stretches as tell it, in the order of their serials. The last move
 * of a jar counts. Nothing is reckoned jar by jar: 5,000 jars cost what their moves cost.
 */
export function jarsStanding(range: Serials, moves: readonly JarMove[]): JarSegment[] {
  const found: JarSegment[] = [];
  for (const { first, last, of } of lastOver(range, moves, (a, b) => a.at - b.at || a.order - b.order)) {
    const segment = { first, last, where: of?.to ?? AT_PACKING, since: of?.at ?? null };
    const before = found.at(-1);
    if (before && before.since === segment.since && samePlace(before.where, segment.where))
      found[found.length - 1] = { ...before, last: segment.last };
    else found.push(segment);
  }
  return found;
}

export const samePlace = (a: JarAt, b: JarAt): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Serials as few stretches as tell them: 1, 2, 3, 7 are 1 to 3 and 7. */
export function stretchesOf(serials: readonly number[]): Serials[] {
  const found: Serials[] = [];
  for (const serial of [...new Set(serials)].sort((a, b) => a - b)) {
    const last = found.at(-1);
    if (last && last.last === serial - 1) found[found.length - 1] = { first: last.first, last: serial };
    else found.push({ first: serial, last: serial });
  }
  return found;
}

/** So many jars off the front of what stands somewhere, oldest serials first; fewer where there are fewer. */
export function takeJars(segments: readonly Serials[], count: number): Serials[] {
  let wanted = count;
  return [...segments]
    .sort((a, b) => a.first - b.first)
    .flatMap(({ first, last }) => {
      const taken = Math.min(wanted, last - first + 1);
      wanted -= taken;
      return taken > 0 ? [{ first, last: first + taken - 1 }] : [];
    });
}
