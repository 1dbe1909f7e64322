import type { EntryKind } from '@clear-tally/contract';
import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import { KINDS, planOne, type Ready, STALLED } from './earlierBatch.js';
import type { Founded } from './house.js';
import { calibrate } from './rounds.js';

/** The house was founded so long ago, in days: eighteen months. */
export const FOUNDED = 548;
/** From the first batch to the last before those that are told one by one. */
const [FIRST, LAST] = [541, 112];
/** Days from one to the next, on the whole: 127 of them. */
const EVERY = 3.4;

/** Suppliers of the first years, whose goods are used up: key, name, prefix, what they brought. */
const SUPPLIERS = [
  ['marsh', 'Marsh End Growers', 'ME'],
  ['pans', 'The Old Pans', 'OP'],
  ['hill', 'Hill Barn Herbs', 'HB'],
] as const;

/** So many runs leave together. */
const TOGETHER = 3;

/**
 * Fifteen months before the batches that are told one by one: a batch every third or fourth day, each in a vessel of its own, read,
 * packed, released and sold. Everything that came for them went into them.
 */
export function planEarlier(
  diary: Diary,
  house: Founded,
  { customers, water }: { customers: Record<string, string>; water: string },
): void {
  const founded = diary.moment(FOUNDED - 1, 10);
  const suppliers = Object.fromEntries(SUPPLIERS.map(([key]) => [key, diary.id(founded)]));
  diary.plan(founded, async () => {
    for (const [key, name, prefix] of SUPPLIERS)
      await diary.record('supplier.add', { supplierId: suppliers[key]!, name, prefix }, founded, house.people.odile);
  });
  const used = new Map<string, number>();
  const spent = (material: string): string => {
    if (!used.has(material)) used.set(material, 0);
    return material;
  };
  const lots = new Map<string, string>();
  const lotOf = (material: string, grams: number): string => {
    used.set(spent(material), used.get(material)! + grams);
    if (!lots.has(material)) lots.set(material, diary.id(founded));
    return lots.get(material)!;
  };
  const mornings = new Set<number>();
  let kept = null as Kept | null;
  let ready: Ready[] = [];
  for (let n = 0; FIRST - n * EVERY >= LAST; n += 1) {
    const kind = KINDS[n % KINDS.length]!;
    const daysAgo = Math.round(FIRST - n * EVERY);
    const [tag, produceGrams] = kind.vessels[Math.floor(n / KINDS.length) % kind.vessels.length]!;
    const donor: Kept | null = kind.formula === 'mash' && kept && kept.generation < 4 ? kept : null;
    const { fill, run } = planOne(diary, house, {
      n,
      kind,
      daysAgo,
      tag,
      produceGrams,
      kept: donor?.fill ?? null,
      water,
      supplier: suppliers['marsh']!,
      lotOf,
      mornings,
    });
    if (kind.formula === 'mash') kept = n === STALLED ? null : { fill, generation: (donor?.generation ?? 0) + 1 };
    if (run) ready.push(run);
    if (ready.length < TOGETHER) continue;
    planGone(diary, house, ready, { n, customers: Object.values(customers) });
    ready = [];
  }
  if (ready.length > 0) planGone(diary, house, ready, { n: 0, customers: Object.values(customers) });
  // What was bought once for all of them: as much as went in.
  const came = diary.moment(FOUNDED - 2, 8);
  diary.plan(came, async () => {
    for (const [material, grams] of used)
      await diary.record(
        'supply.receive',
        {
          lotId: lots.get(material)!,
          materialId: house.materials[material]!,
          supplierId: suppliers[material === 'coarse' ? 'pans' : 'hill']!,
          supplierLotCode: `25-${material.slice(0, 2).toUpperCase()}-${lots.size}`,
          grams,
          useBy: null,
          condition: null,
        },
        came,
        house.people.tomasz,
      );
  });
  for (const daysAgo of mornings) calibrate(diary, house, daysAgo);
}

interface Kept {
  readonly fill: string;
  readonly generation: number;
}

/** Three runs leave together: two boxes of each to one who ordered, the rest over the stall. */
function planGone(
  diary: Diary,
  house: Founded,
  ready: readonly Ready[],
  { n, customers }: { n: number; customers: readonly string[] },
): void {
  const since = Math.min(...ready.map(({ packedDaysAgo }) => packedDaysAgo));
  const jars = (first: number, last: number): { runLotId: string; first: number; last: number }[] =>
    ready.map(({ runLotId, count }) => ({ runLotId, first: Math.min(first, count), last: Math.min(last, count) }));
  const say = (daysAgo: number, kind: EntryKind, body: object, by: Actor): void => {
    const at = diary.moment(daysAgo, 7, 30);
    diary.plan(at, () => diary.recordAll([{ kind, body }], at, by));
  };
  say(
    since - 12,
    'jars.dispatch',
    { dispatchId: diary.id(), customerId: customers[n % customers.length]!, jars: jars(2, 25), note: null },
    house.people.tomasz,
  );
  say(
    since - 22,
    'jars.out',
    { jars: jars(26, Number.MAX_SAFE_INTEGER), how: 'market', note: 'Ellery Saturday Market' },
    house.people.ines,
  );
}
