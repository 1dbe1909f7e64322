import { planAfterPacking } from './afterPacking.js';
import { planBatch } from './batches.js';
import { planSoldFresh } from './counted.js';
import { Diary } from './diary.js';
import { planDesk } from './desk.js';
import { planFinishes } from './finishes.js';
import { planHeat } from './heat.js';
import { type Founded } from './house.js';
import { planLabels } from './labels.js';
import { planOpenings } from './openings.js';
import { planOrders } from './orders.js';
import { planRounds } from './rounds.js';

/** The eleven weeks that are told batch by batch; the customers by their names. */
export function planBatches(
  diary: Diary,
  house: Founded,
  lots: Record<string, string>,
  since: number,
): Record<string, string> {
  const mash = {
    formula: 'mash',
    salt: 'salt1',
    souring: { start: 5.2, end: 3.5, perHour: 0.014 },
    celsius: 15,
  } as const;
  const turnips = { formula: 'turnips', souring: { start: 6.1, end: 3.6, perHour: 0.017 }, celsius: 19 } as const;
  const shred = { formula: 'shred', souring: { start: 6.1, end: 3.55, perHour: 0.016 }, celsius: 14 } as const;

  const first = planBatch(diary, house, lots, {
    ...mash,
    daysAgo: 71,
    hour: 9,
    by: 'tomasz',
    fills: [{ tag: 'D5', produceGrams: 20_000 }],
    produce: ['physalis0', 'chilli0'],
    others: ['lovage0'],
    packedDaysAgo: 35,
  });
  const winter = planBatch(diary, house, lots, {
    ...shred,
    daysAgo: 63,
    hour: 9,
    by: 'tomasz',
    fills: [
      { tag: 'C1', produceGrams: 39_000 },
      { tag: 'C2', produceGrams: 39_000 },
    ],
    produce: ['kohlrabi0', 'celeriac0'],
    salt: 'salt1',
    others: ['juniper1'],
    packedDaysAgo: 30,
  });
  const roots = planBatch(diary, house, lots, {
    ...turnips,
    daysAgo: 50,
    hour: 10,
    by: 'ines',
    fills: [
      { tag: 'D1', produceGrams: 7200 },
      { tag: 'D2', produceGrams: 7200 },
    ],
    produce: ['turnip0'],
    salt: 'salt1',
    others: ['thyme0', 'pepper1', 'mustard1'],
    packedDaysAgo: 27,
  });
  const second = planBatch(diary, house, lots, {
    ...mash,
    daysAgo: 42,
    hour: 11,
    by: 'tomasz',
    fills: [{ tag: 'D6', produceGrams: 21_000 }],
    produce: ['physalis1', 'chilli1'],
    others: ['lovage0'],
    kept: { from: () => first.fillIds[0]!, grams: 420 },
    packedDaysAgo: 11,
    hot: true,
  });
  const slipped = planBatch(diary, house, lots, {
    ...shred,
    daysAgo: 40,
    hour: 9,
    by: 'odile',
    fills: [{ tag: 'C3', produceGrams: 40_000 }],
    produce: ['kohlrabi1', 'celeriac1'],
    salt: 'salt3',
    others: ['juniper1'],
    packedDaysAgo: 8,
    slippedSalt: true,
  });
  const turnipDonor = planBatch(diary, house, lots, {
    ...turnips,
    daysAgo: 26,
    hour: 9,
    by: 'ines',
    fills: [
      { tag: 'D1', produceGrams: 7200 },
      { tag: 'D2', produceGrams: 7200 },
      { tag: 'G5', produceGrams: 4900 },
      { tag: 'G6', produceGrams: 4900 },
    ],
    produce: ['turnip1'],
    salt: 'salt1',
    others: ['thyme1', 'pepper1', 'mustard1'],
    pairOn: [22, 24],
  });
  const crocks = planBatch(diary, house, lots, {
    ...shred,
    daysAgo: 19,
    hour: 14,
    by: 'tomasz',
    fills: [
      { tag: 'C1', produceGrams: 41_000 },
      { tag: 'C2', produceGrams: 40_500 },
    ],
    produce: ['kohlrabi2', 'celeriac2'],
    salt: 'salt2',
    others: ['juniper1'],
    slippedSalt: true,
    pairOn: [16, 18],
  });
  planBatch(diary, house, lots, {
    ...mash,
    salt: 'salt2',
    daysAgo: 12,
    hour: 9,
    by: 'tomasz',
    fills: [{ tag: 'D7', produceGrams: 21_500 }],
    produce: ['physalis2', 'chilli2'],
    others: ['lovage1'],
    kept: { from: () => second.fillIds[0]!, grams: 430 },
  });
  planBatch(diary, house, lots, {
    ...mash,
    salt: 'salt2',
    daysAgo: 9,
    hour: 15,
    by: 'ines',
    fills: [{ tag: 'D8', produceGrams: 20_500 }],
    produce: ['physalis2', 'chilli2'],
    others: ['lovage1'],
    souring: { start: 5.3, end: 5.0, perHour: 0.01 },
    celsius: 16.4,
  });
  const glasses = planBatch(diary, house, lots, {
    ...turnips,
    daysAgo: 9,
    hour: 9,
    by: 'ines',
    fills: [
      { tag: 'D3', produceGrams: 7100 },
      { tag: 'G7', produceGrams: 4800 },
      { tag: 'G1', produceGrams: 2400 },
      { tag: 'G2', produceGrams: 2400 },
    ],
    produce: ['turnip2'],
    salt: 'salt2',
    others: ['thyme2', 'pepper1', 'mustard1'],
  });
  planBatch(diary, house, lots, {
    ...shred,
    daysAgo: 5,
    hour: 10,
    by: 'tomasz',
    fills: [
      { tag: 'C4', produceGrams: 24_000 },
      { tag: 'C5', produceGrams: 24_000 },
    ],
    produce: ['kohlrabi3', 'celeriac3'],
    salt: 'salt2',
    others: ['juniper1'],
  });
  planBatch(diary, house, lots, {
    ...turnips,
    daysAgo: 2,
    hour: 10,
    by: 'ines',
    fills: [
      { tag: 'D4', produceGrams: 7200 },
      { tag: 'G8', produceGrams: 4900 },
    ],
    produce: ['turnip3'],
    salt: 'salt2',
    others: ['thyme3', 'pepper1', 'mustard1'],
  });

  planBatch(diary, house, lots, {
    formula: 'gooseberries',
    salt: 'salt3',
    daysAgo: 6,
    hour: 15,
    by: 'odile',
    fills: [
      { tag: 'V1', produceGrams: 2300 },
      { tag: 'V2', produceGrams: 2300 },
      { tag: 'V3', produceGrams: 2200 },
    ],
    produce: ['gooseberry1'],
    others: [],
    souring: { start: 3.2, end: 3.05, perHour: 0.01 },
    celsius: 20,
  });
  planRounds(diary, house, { film: crocks.fillIds[1]!, pinkTop: glasses.fillIds[3]! });
  planKeptBrine(diary, house, turnipDonor.fillIds[0]!);
  const barrel = planOpenings(diary, house);
  const customers = planAfterPacking(
    diary,
    house,
    [
      { runLotId: first.runIds[0]!, daysAgo: 35, story: 'sold', gasAfter: 9 },
      { runLotId: winter.runIds[0]!, daysAgo: 30, story: 'sold', gasAfter: 9 },
      { runLotId: winter.runIds[1]!, daysAgo: 30, story: 'sold', gasAfter: 9 },
      { runLotId: roots.runIds[0]!, daysAgo: 27, story: 'sold', gasAfter: 8 },
      { runLotId: roots.runIds[1]!, daysAgo: 27, story: 'gushed', gasAfter: 8 },
      { runLotId: second.runIds[0]!, daysAgo: 11, story: 'waits', gasAfter: 8 },
      { runLotId: slipped.runIds[0]!, daysAgo: 8, story: 'waits' },
    ],
    since,
  );
  planHeat(diary, house, { runLotId: second.runIds[0]!, jars: second.jars[0]!, daysAgo: 11 });
  planLabels(diary, house, { runLotId: first.runIds[0]!, jars: first.jars[0]!, daysAgo: 35 });
  planSoldFresh(diary, house, lots);
  planWaiting(diary, house, lots);
  planFinishes(diary, house, lots, { fillLotId: turnipDonor.fillIds[3]! });
  planOrders(diary, house, customers);
  planDesk(diary, house, {
    pepperLotId: lots['pepper1']!,
    turnipRuns: roots.runIds,
    sauceRun: first.runIds[0]!,
    barrel: barrel.fillLotId,
    barrelGrams: barrel.grams,
  });
  return customers;
}

/** Brine taken off a drum of turnips yesterday: it carries their mustard to whatever it starts. */
function planKeptBrine(diary: Diary, house: Founded, fillLotId: string): void {
  const at = diary.moment(1, 16, 20);
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'brine.keep',
        { lotId: diary.id(at), fillLotId, grams: 900, useBy: null },
        at,
        house.people.ines,
      )),
  );
}

/** A batch trimmed this morning, waiting for its salt. */
function planWaiting(diary: Diary, house: Founded, lots: Record<string, string>): void {
  const at = diary.moment(0, 6, 10);
  const batchId = diary.id(at);
  const { formulaId, version } = house.formulas.shred;
  diary.plan(at, async () => {
    await diary.record(
      'batch.start',
      { batchId, formulaId, version, plan: { from: 'trimmed', trimmedGrams: 20_000 } },
      at,
      house.people.tomasz,
    );
    await diary.record('step.begin', { batchId, step: 'inspect' }, at, house.people.tomasz);
    await diary.record(
      'step.finish',
      {
        batchId,
        step: 'inspect',
        minutes: null,
        checked: ['firm', 'ends', 'washed', 'core'],
        skipped: null,
        note: null,
      },
      new Date(at.getTime() + 9 * 60_000),
      house.people.tomasz,
    );
    await diary.record(
      'produce.weigh',
      { batchId, supplyLotId: lots['kohlrabi3']!, trimmedGrams: 10_220, trimWasteGrams: 2890 },
      at,
      house.people.tomasz,
    );
    await diary.record(
      'produce.weigh',
      { batchId, supplyLotId: lots['celeriac3']!, trimmedGrams: 4380, trimWasteGrams: 1240 },
      at,
      house.people.tomasz,
    );
  });
}
