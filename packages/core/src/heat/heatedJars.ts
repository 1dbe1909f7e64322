import type { Serials } from '../jars/standing.js';

export type JarHeat = 'unheated' | 'met' | 'notMet' | 'missing' | 'notTight';
export const JAR_HEAT_WORDS: Readonly<Record<JarHeat, string>> = {
  unheated: 'never heated',
  met: 'heated to its process',
  notMet: 'held: its load does not meet the process',
  missing: 'waits: something of its load is missing',
  notTight: 'held: its seal failed',
};

export interface LoadStanding extends Serials {
  readonly at: number;
  /** The journal's order, for loads of one moment. */
  readonly order: number;
  readonly stands: 'met' | 'notMet' | 'missing';
  /** Jars of it whose seal failed. */
  readonly failed: readonly number[];
}

export interface JarHeatSegment extends Serials {
  readonly heat: JarHeat;
}

/**
 * How each jar of a run stands by its heat: the last load that names it counts, and a failed load holds exactly its own.
 * Source: handbook 4.3.
 */
export function heatedJars(range: Serials, loads: readonly LoadStanding[]): JarHeatSegment[] {
  const inTime = [...loads].sort((a, b) => a.at - b.at || a.order - b.order);
  const edges = new Set([range.first, range.last + 1]);
  const edge = (serial: number): unknown => serial > range.first && serial <= range.last && edges.add(serial);
  for (const { first, last, failed } of inTime)
    for (const one of [{ first, last }, ...failed.map((serial) => ({ first: serial, last: serial }))]) {
      edge(one.first);
      edge(one.last + 1);
    }
  const cuts = [...edges].sort((a, b) => a - b);
  const found: { first: number; last: number; heat: JarHeat }[] = [];
  for (const [i, first] of cuts.slice(0, -1).entries()) {
    const load = inTime.findLast((one) => one.first <= first && one.last >= first);
    const heat: JarHeat = !load ? 'unheated' : load.failed.includes(first) ? 'notTight' : load.stands;
    const before = found.at(-1);
    if (before?.heat === heat) before.last = cuts[i + 1]! - 1;
    else found.push({ first, last: cuts[i + 1]! - 1, heat });
  }
  return found;
}
