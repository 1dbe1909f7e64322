import { entrySchema } from '@clear-tally/contract';
import { recordEntries } from '../src/journal/record.js';
import { Refused } from '../src/journal/refused.js';
import type { TestHouse } from './house.js';
import { daysAgo } from './oneBatch.js';
import { Dice } from './dice.js';

export interface Said {
  readonly kind: string;
  readonly body: Record<string, unknown>;
}

/** What a random house knows of itself, while it is made. */
interface Known {
  readonly supplies: { id: string; what: 'shred' | 'salt' | 'pepper' }[];
  readonly batches: { id: string; produce: number; salt: number; filled: number; closed: boolean }[];
  readonly fills: { id: string; batch: string; vessel: string; grams: number; live: boolean }[];
  readonly runs: string[];
  readonly timers: string[];
  readonly holds: { entry: string; lot: string }[];
  readonly customers: string[];
  readonly orders: string[];
}

const VESSELS = ['C1', 'C2', 'D1', 'D2', 'G1'];

type Say = (kind: string, body: Record<string, unknown>, then?: () => void) => { said: Said; then: () => void };

/** Who wants jars, and when they do not any more. */
function ordering(dice: Dice, { names }: TestHouse, known: Known, say: Say): { said: Said; then: () => void } {
  if (known.customers.length === 0 || dice.chance(0.2)) {
    const customerId = dice.id();
    const name = `Shop ${known.customers.length + 1}`;
    return say('customer.add', { customerId, name, customerKind: 'shop', address: null, contact: null }, () =>
      known.customers.push(customerId),
    );
  }
  if (known.orders.length > 0 && dice.chance(0.3))
    return say('order.close', { orderId: dice.one(known.orders), reason: 'they have enough' });
  const orderId = dice.id();
  const line = { formulaId: names.dry, sizeMl: 330, count: dice.whole(1, 40) };
  return say(
    'order.take',
    { orderId, customerId: dice.one(known.customers), wantedOn: null, lines: [line], note: null },
    () => known.orders.push(orderId),
  );
}

/** The next thing that somebody in this house might do, and what would be known afterwards. Many of them are refused. */
export function propose(
  dice: Dice,
  house: TestHouse,
  known: Known,
  entryId: string,
): { said: Said; then: () => void } | null {
  const { names } = house;
  const live = known.fills.filter((fill) => fill.live);
  const open = known.batches.filter((batch) => !batch.closed);
  const say = (kind: string, body: Record<string, unknown>, then: () => void = () => undefined) => ({
    said: { kind, body },
    then,
  });
  const dice100 = dice.next();
  if (known.supplies.length < 6 || dice100 < 0.04) {
    const what =
      known.supplies.length < 3
        ? (['shred', 'salt', 'pepper'] as const)[known.supplies.length]!
        : dice.one(['shred', 'salt', 'pepper'] as const);
    const lotId = dice.id();
    const grams = what === 'shred' ? dice.whole(20, 60) * 1000 : dice.whole(3, 12) * 1000;
    return say(
      'supply.receive',
      {
        lotId,
        materialId: names[what],
        supplierId: names.supplier,
        supplierLotCode: `L${dice.whole(1, 999)}`,
        grams,
        useBy: null,
        condition: null,
      },
      () => known.supplies.push({ id: lotId, what }),
    );
  }
  const supply = (what: string) => dice.one(known.supplies.filter((one) => one.what === what)).id;
  if (open.length === 0 || dice100 < 0.06) {
    const batchId = dice.id();
    return say(
      'batch.start',
      { batchId, formulaId: names.dry, version: 1, plan: { from: 'trimmed', trimmedGrams: 6000 } },
      () => known.batches.push({ id: batchId, produce: 0, salt: 0, filled: 0, closed: false }),
    );
  }
  const batch = dice.one(open.slice(-3));
  if (dice100 < 0.12 || (dice100 < 0.2 && batch.produce === 0)) {
    const grams = dice.whole(3000, 9000);
    return say(
      'produce.weigh',
      { batchId: batch.id, supplyLotId: supply('shred'), trimmedGrams: grams, trimWasteGrams: dice.whole(0, 400) },
      () => {
        batch.produce += grams;
      },
    );
  }
  const missing = batch.produce * 0.022 - batch.salt;
  if (dice100 < 0.36 && missing > 5)
    return say(
      'salt.weigh',
      { batchId: batch.id, saltLotId: supply('salt'), grams: Math.round(missing), alreadyIn: true },
      () => {
        batch.salt += Math.round(missing);
      },
    );
  if (dice100 < 0.3)
    return say('ingredient.add', { batchId: batch.id, fromLotId: supply('pepper'), grams: dice.whole(5, 60) });
  if (
    dice100 < 0.48 &&
    batch.produce > 0 &&
    Math.abs(missing) < 5 &&
    batch.produce + batch.salt - batch.filled > 2000
  ) {
    const fillLotId = dice.id();
    const grams = Math.min(batch.produce + batch.salt - batch.filled - 5, dice.whole(2500, 9000));
    const vessel = house.vessel(dice.one(VESSELS));
    return say(
      'vessel.fill',
      { fillLotId, batchId: batch.id, vesselId: vessel, grams, brine: null, overReason: 'so it was' },
      () => {
        batch.filled += grams;
        known.fills.push({ id: fillLotId, batch: batch.id, vessel, grams, live: true });
      },
    );
  }
  if (dice100 < 0.49) return say('step.begin', { batchId: batch.id, step: dice.one(['salt', 'trim', 'fill']) });
  if (dice100 < 0.52)
    return say('stock.count', {
      lotId: dice.one(known.supplies).id,
      grams: dice.whole(500, 20_000),
      reason: 'counted',
    });
  if (dice100 < 0.54)
    return say('supply.state', {
      lotId: dice.one(known.supplies).id,
      state: dice.one(['opened', 'asReceived']),
      keepsUntil: null,
    });
  if (dice100 < 0.56) {
    const timerId = dice.id();
    return say(
      'timer.start',
      { timerId, batchId: batch.id, step: null, words: 'look', minutes: dice.whole(1, 90) },
      () => known.timers.push(timerId),
    );
  }
  if (dice100 < 0.57 && known.timers.length > 0) return say('timer.stop', { timerId: dice.one(known.timers) });
  if (dice100 < 0.59)
    return say('vessel.clean', { vesselId: house.vessel(dice.one(VESSELS)), agent: dice.one(['soda', 'hot water']) });
  if (dice100 < 0.6)
    return say('house.set', { labourPerHour: dice.whole(10, 30), scaleStepGrams: dice.one([1, 2, 5]) });
  if (dice100 < 0.615 && dice100 >= 0.605) return ordering(dice, house, known, say);
  if (dice100 < 0.61) return say('plan.change', { lotId: batch.id, checks: [], reason: 'as it is' });
  if (dice100 < 0.62)
    return say('material.change', {
      materialId: names.pepper,
      name: 'Black pepper',
      kind: 'flavouring',
      waterFraction: dice.one([0.1, 0.11, 0.12]),
      saltFraction: 0,
      allergens: [],
      caution: null,
    });
  if (dice100 < 0.64 && known.holds.length > 0) {
    const held = dice.one(known.holds);
    return say('hold.lift', { lotId: held.lot, holdId: held.entry, reason: 'looked at' });
  }
  if (live.length === 0) return null;
  const fill = dice.one(live);
  if (dice100 < 0.72)
    return say('ph.read', {
      lotId: fill.id,
      ph: dice.whole(340, 560) / 100,
      sample: dice.one(['blended', 'brine']),
      confirmedJump: true,
    });
  if (dice100 < 0.77) return say('temperature.read', { lotId: fill.id, celsius: dice.whole(120, 210) / 10 });
  if (dice100 < 0.82)
    return say('check.make', {
      lotId: fill.id,
      what: dice.one(['look', 'burp', 'floaters']),
      words: null,
      quiet: dice.chance(0.8),
    });
  if (dice100 < 0.86) {
    const grams = dice.whole(5, 80);
    return say('loss.record', { lotId: fill.id, sink: dice.one(['sample', 'gas', 'overflow']), grams, note: null });
  }
  if (dice100 < 0.88)
    return say('vessel.close', {
      lotId: fill.id,
      closure: dice.one(['airlock', 'loose']),
      headspaceMm: dice.whole(10, 60),
      weightItems: [],
      tray: dice.chance(0.5),
    });
  if (dice100 < 0.89) return say('label.print', { lotIds: [fill.id], copies: dice.whole(1, 3), printer: null });
  if (dice100 < 0.9) return say('lot.count', { lotId: fill.id, grams: dice.whole(1000, 9000), byDifference: null });
  if (dice100 < 0.92)
    return say(
      'hold.place',
      {
        lotId: dice.chance(0.5) ? fill.id : dice.one(known.supplies).id,
        reason: `asked ${dice.whole(1, 99)}`,
        downstream: true,
      },
      () => known.holds.push({ entry: entryId, lot: fill.id }),
    );
  if (dice100 < 0.94) {
    const other = dice.one(live);
    return say('lot.transfer', { fromLotId: fill.id, toLotId: other.id, grams: dice.whole(200, 900), note: null });
  }
  if (dice100 < 0.95) {
    const fillLotId = dice.id();
    return say(
      'vessel.split',
      { fromLotId: fill.id, fillLotId, vesselId: house.vessel(dice.one(VESSELS)), grams: dice.whole(2500, 4000) },
      () => known.fills.push({ ...fill, id: fillLotId }),
    );
  }
  if (dice100 < 0.96) {
    const [batchId, fillLotId] = [dice.id(), dice.id()];
    const vessel = house.vessel(dice.one(VESSELS));
    const grams = dice.whole(2600, 8000);
    return say('lot.open', { what: 'vessel', batchId, fillLotId, name: 'Old', vesselId: vessel, grams }, () =>
      known.fills.push({ id: fillLotId, batch: batchId, vessel, grams, live: true }),
    );
  }
  if (dice100 < 0.97)
    return say('vessel.throwOut', { lotId: fill.id, cause: 'smelled', note: null }, () => {
      fill.live = false;
    });
  if (dice100 < 0.98)
    return say('acid.titrate', { lotId: fill.id, sampleGrams: 10, millilitres: dice.whole(3, 12), normality: 0.1 });
  return say('find.record', {
    lotId: fill.id,
    finding: 'film',
    place: 'surface',
    verdict: 'act',
    reason: null,
    note: null,
    photo: null,
  });
}

/** The same entry as somebody might have got it wrong: another figure, another lot, another vessel. */
export function mistaken(dice: Dice, house: TestHouse, known: Known, { kind, body }: Said): Said {
  const wrong: Record<string, unknown> = { ...body };
  const masses = [
    'trimmedGrams',
    'trimWasteGrams',
    'grams',
    'ph',
    'celsius',
    'minutes',
    'headspaceMm',
    'labourPerHour',
    'millilitres',
    'copies',
    'waterFraction',
  ].filter((field) => typeof body[field] === 'number');
  const others: (() => void)[] = masses.map((field) => () => {
    wrong[field] = Math.max(
      field === 'ph' ? 2.9 : 0,
      Math.round(Number(body[field]) * dice.one([0.1, 0.5, 0.8, 1.1, 1.3, 10]) * 100) / 100,
    );
  });
  if (typeof body['vesselId'] === 'string')
    others.push(() => {
      wrong['vesselId'] = house.vessel(dice.one(VESSELS));
    });
  if (typeof body['lotId'] === 'string' && known.fills.some(({ id }) => id === body['lotId']))
    others.push(() => {
      wrong['lotId'] = dice.one(known.fills).id;
    });
  for (const [field, what] of [
    ['supplyLotId', 'shred'],
    ['saltLotId', 'salt'],
    ['fromLotId', 'pepper'],
  ] as const) {
    if (known.supplies.some(({ id }) => id === body[field]))
      others.push(() => {
        wrong[field] = dice.one(known.supplies.filter((one) => one.what === what)).id;
      });
  }
  if (typeof body['batchId'] === 'string' && kind !== 'batch.start')
    others.push(() => {
      wrong['batchId'] = dice.one(known.batches).id;
    });
  if (others.length > 0) dice.one(others)();
  return { kind, body: wrong };
}

export const fresh = (): Known => ({
  supplies: [],
  batches: [],
  fills: [],
  runs: [],
  timers: [],
  holds: [],
  customers: [],
  orders: [],
});

/** Records at a moment, as an owner; a refusal is answered with its words. */
export async function tell(house: TestHouse, entryId: string, said: Said, at: Date): Promise<string | null> {
  const asked = {
    id: entryId,
    kind: said.kind,
    happenedAt: at.toISOString(),
    by: house.owner.id,
    device: 'random',
    body: said.body,
  };
  const shaped = entrySchema.safeParse(asked);
  if (!shaped.success) return `shape: ${shaped.error.issues[0]?.message}`;
  const entry = shaped.data;
  try {
    await recordEntries(house.connection.db, { entries: [entry], actor: house.owner, now: at });
    return null;
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return `${error.refusal.code}: ${error.refusal.message}`;
  }
}

export const momentOf = (number: number): Date => new Date(daysAgo(20).getTime() + number * 600_000);
