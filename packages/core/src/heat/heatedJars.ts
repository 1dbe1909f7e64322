import { lastOver, type Serials } from '../jars/lastOver.js';

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
  // A jar whose seal failed at a load stands as that load's last word on it.
  const words = loads.flatMap((load) => [
    { first: load.first, last: load.last, load, heat: load.stands as JarHeat },
    ...load.failed.map((serial) => ({ first: serial, last: serial, load, heat: 'notTight' as const })),
  ]);
  const order = (a: (typeof words)[number], b: (typeof words)[number]): number =>
    a.load.at - b.load.at ||
    a.load.order - b.load.order ||
    Number(a.heat === 'notTight') - Number(b.heat === 'notTight');
  const found: { first: number; last: number; heat: JarHeat }[] = [];
  for (const { first, last, of } of lastOver(range, words, order)) {
    const heat = of?.heat ?? 'unheated';
    const before = found.at(-1);
    if (before?.heat === heat) before.last = last;
    else found.push({ first, last, heat });
  }
  return found;
}
