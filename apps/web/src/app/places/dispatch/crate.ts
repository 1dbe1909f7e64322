import { countOf, type JarCode, readJarCode, type Serials, stretchesOf } from '@clear-tally/core';
import type { JarsReply } from '@clear-tally/contract';

/** Jars of a run that are in the crate, as few stretches as tell them. */
export interface InCrate extends Serials {
  readonly runLotId: string;
  readonly run: string;
  readonly name: string;
}

type Stock = JarsReply['runs'];

export interface Added {
  readonly crate: readonly InCrate[];
  /** What was done, or why not. */
  readonly said: string;
  readonly ok: boolean;
}

const no = (crate: readonly InCrate[], said: string): Added => ({ crate, said, ok: false });

/** Serials of a run that stand in the house and are not in the crate yet. */
export function freeOf(run: Stock[number], crate: readonly InCrate[]): Serials[] {
  const taken = new Set(
    crate
      .filter(({ runLotId }) => runLotId === run.lotId)
      .flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, i) => first + i)),
  );
  const free = run.stretches
    .filter(({ kept }) => kept === null)
    .flatMap(({ first, last }) =>
      Array.from({ length: last - first + 1 }, (_, i) => first + i).filter((serial) => !taken.has(serial)),
    );
  return stretchesOf(free);
}

const free = (run: Stock[number], crate: readonly InCrate[], { first, last }: Serials): boolean =>
  freeOf(run, crate).some((one) => one.first <= first && one.last >= last);

/** Puts serials of a run into the crate; they come last, in the order they were put in. */
export function put(crate: readonly InCrate[], run: Stock[number], serials: readonly Serials[]): readonly InCrate[] {
  const more = serials.map((one) => ({ ...one, runLotId: run.lotId, run: run.code, name: run.name }));
  const before = crate.at(-1);
  const [next, ...rest] = more;
  // What follows on what was scanned last goes on with it.
  if (before && next && before.runLotId === next.runLotId && before.last + 1 === next.first)
    return [...crate.slice(0, -1), { ...before, last: next.last }, ...rest];
  return [...crate, ...more];
}

/**
 * A code scanned or typed: one jar; a code with "x 12" behind it: a case of twelve from that jar on; two codes of one run
 * with "to" between them: all between. Says in words what it did,
 * or why it did nothing; a crate never changes by a slip.
 */
export function scanInto(crate: readonly InCrate[], stock: Stock, typed: string): Added {
  const of = /^(.*\S)\s*[x×*]\s*(\d{1,3})$/i.exec(typed.trim());
  const inCase = of ? Number(of[2]) : 1;
  const parts = (of ? of[1]! : typed.trim()).split(/\s+(?:to|–|-)\s+/i);
  if (of && (parts.length > 1 || inCase < 1)) return no(crate, 'A case begins with one jar: its code, x, how many.');
  const read: JarCode[] = [];
  for (const part of parts.slice(0, 2)) {
    const outcome = readJarCode(part);
    if (!outcome) return no(crate, `“${part}” is no jar code. It reads like NY26-327-A-01-00147-K.`);
    if (!outcome.ok) return no(crate, outcome.refusal.message);
    read.push(outcome.value);
  }
  const [from, to = from] = read;
  if (!from || !to) return no(crate, 'Scan or type a jar code.');
  if (from.run !== to.run || to.serial < from.serial)
    return no(crate, `${from.text} to ${to.text} is no range: both ends of one run, the lower first.`);
  const run = stock.find(({ code }) => code === from.run);
  if (!run) return no(crate, `No jar of ${from.run} stands in the house.`);
  if (run.refusal) return no(crate, `${run.refusal} Nothing of ${run.code} leaves.`);
  const serials = { first: from.serial, last: to.serial + inCase - 1 };
  const inCrate = crate.some(
    (one) => one.runLotId === run.lotId && one.first <= serials.last && one.last >= serials.first,
  );
  if (inCrate) return no(crate, `${from.text} is in the crate already.`);
  const kept = run.stretches.find((one) => one.kept !== null && one.first <= serials.last && one.last >= serials.first);
  if (kept)
    return no(crate, `${kept.first > serials.first ? kept.firstCode : from.text}: ${kept.kept}. It does not leave.`);
  if (!free(run, crate, serials)) return no(crate, `${from.text} does not stand in the house.`);
  const many = countOf(serials);
  return {
    crate: put(crate, run, [serials]),
    said: many === 1 ? `${from.text} is in.` : `${many} jars of ${run.code} are in.`,
    ok: true,
  };
}

export const jarsIn = (crate: readonly InCrate[]): number => crate.reduce((sum, one) => sum + countOf(one), 0);
