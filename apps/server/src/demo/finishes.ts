import type { BodyOf } from '@clear-tally/contract';
import { planBatch } from './batches.js';
import { type DeliveryPlan, planDeliveries } from './deliveries.js';
import { planBeside } from './beside.js';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/** Two pans and what a sauce is thickened with: bought when the first drum was to be finished. */
function planPans(diary: Diary, house: Founded): void {
  const at = diary.moment(74, 11);
  const thickener = diary.id(at);
  const thickenerLot = diary.id(at);
  for (const [tag, brimMl] of [
    ['P1', 30_000],
    ['P2', 12_000],
  ] as const) {
    const vesselId = diary.id(at);
    house.vessels.set(tag, vesselId);
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'vessel.add',
          {
            vesselId,
            tag,
            shape: 'pan',
            brimMl,
            maxFill: 0.9,
            minFill: 0.1,
            weightVolumeMl: 0,
            closure: 'loose',
            roomId: house.rooms.get('loft')!,
            inUse: true,
          },
          at,
          house.people.odile,
        )),
    );
  }
  diary.plan(at, async () => {
    await diary.record(
      'material.add',
      {
        materialId: thickener,
        name: 'Guar, ground',
        kind: 'flavouring',
        waterFraction: 0.1,
        saltFraction: 0,
        allergens: [],
        caution: 'Dust it in while the blade turns: it clumps.',
        details: { standsFor: 'thickener', costPerKg: 9, diet: ['vegan'] },
      },
      at,
      house.people.odile,
    );
    await diary.record(
      'supply.receive',
      {
        lotId: thickenerLot,
        materialId: thickener,
        supplierId: house.suppliers['lowmill']!,
        supplierLotCode: 'LMS/GU/0031',
        grams: 500,
        useBy: null,
        condition: null,
      },
      at,
      house.people.tomasz,
    );
  });
}

const SUPPLIES: DeliveryPlan[] = [
  ['physalis9', 'physalis', 'causeway', 'F3-PH-17', 24, 31],
  ['chilli9', 'chilli', 'causeway', 'F7-GC-08', 7, 31],
  ['lovage9', 'lovage', 'causeway', 'F1-LV-39', 0.9, 31],
  ['vinegar9', 'vinegar', 'lowmill', 'LMS/CV/0202', 5, 33],
];

/**
 * What is finished before it is packed: a glass of turnips drained and repacked in fresh brine, its jars waiting for
 * their even pH; and a drum of mash in the pan since this morning, with its brine back and its vinegar in.
 */
export function planFinishes(
  diary: Diary,
  house: Founded,
  lots: Readonly<Record<string, string>>,
  turnips: { readonly fillLotId: string },
): void {
  planPans(diary, house);
  const own = planDeliveries(diary, house, SUPPLIES);
  const sauce = planBatch(
    diary,
    house,
    { ...lots, ...own },
    {
      formula: 'mash',
      salt: 'salt1',
      souring: { start: 5.2, end: 3.5, perHour: 0.014 },
      celsius: 15,
      daysAgo: 30,
      hour: 9,
      by: 'tomasz',
      fills: [{ tag: 'D5', produceGrams: 18_400 }],
      produce: ['physalis9', 'chilli9'],
      others: ['lovage9'],
      pairOn: [26, 28],
    },
  );
  const record = <K extends Parameters<Diary['record']>[0]>(
    kind: K,
    body: BodyOf<K>,
    at: Date,
    by: 'tomasz' | 'ines' = 'tomasz',
  ) => diary.plan(at, async () => void (await diary.record(kind, body, at, house.people[by])));

  planRepack(diary, house, lots, turnips.fillLotId, record);
  planBeside(diary, house, sauce.fillIds[0]!);
  const began = diary.moment(0, 6, 40);
  const later = (minutes: number): Date =>
    new Date(Math.min(began.getTime() + minutes * 60_000, diary.moment(0, 23).getTime()));
  const finishLotId = diary.id(began);
  record(
    'finish.begin',
    {
      finishLotId,
      what: 'sauce',
      vesselId: house.vessels.get('P1')!,
      from: [{ fillLotId: sauce.fillIds[0]!, grams: 12_600, of: 'solids' }],
    },
    began,
  );
  const step = (key: string, minutes: number, checked: string[]): void =>
    record(
      'step.finish',
      { batchId: finishLotId, step: key, minutes, checked, skipped: null, note: null },
      later(minutes),
    );
  step('drain', 2, ['clean', 'weights']);
  const add = (fromLotId: string, grams: number, as: BodyOf<'finish.add'>['as'], minutes: number, more: object = {}) =>
    record('finish.add', { finishLotId, fromLotId, grams, as, ...more }, later(minutes));
  add(sauce.fillIds[0]!, 1260, 'brine', 3);
  add(sauce.fillIds[0]!, 1270, 'brine', 5);
  step('blend', 6, ['clean', 'blade']);
  record(
    'finish.byProduct',
    { lotId: diary.id(began), fromLotId: sauce.fillIds[0]!, as: 'juice', name: 'Brine for the kitchen', grams: 1500 },
    later(6.5),
  );
  record(
    'vessel.throwOut',
    { lotId: sauce.fillIds[0]!, cause: 'brine left over, the drum is wanted', note: null },
    later(6.8),
  );
  add(own['vinegar9']!, 605, 'vinegar', 7, { strengthPercent: 5 });
  step('vinegar', 8, []);
}

type Recording = <K extends Parameters<Diary['record']>[0]>(
  kind: K,
  body: BodyOf<K>,
  at: Date,
  by?: 'tomasz' | 'ines',
) => void;

function planRepack(
  diary: Diary,
  house: Founded,
  lots: Readonly<Record<string, string>>,
  fillLotId: string,
  record: Recording,
): void {
  const at = (minute: number): Date => diary.moment(1, 13, minute);
  const finishLotId = diary.id(at(0));
  const brineLotId = diary.id(at(0));
  const runLotId = diary.id(at(0));
  record(
    'finish.begin',
    {
      finishLotId,
      what: 'repack',
      vesselId: house.vessels.get('P2')!,
      from: [{ fillLotId, grams: 4300, of: 'solids' }],
    },
    at(0),
    'ines',
  );
  record(
    'finish.brine',
    {
      how: 'fresh',
      finishLotId,
      brineLotId,
      waterLotId: lots['water']!,
      waterGrams: 2440,
      saltLotId: lots['salt2']!,
      saltGrams: 60,
    },
    at(20),
    'ines',
  );
  record('finish.add', { finishLotId, fromLotId: brineLotId, grams: 2500, as: 'brine' }, at(35), 'ines');
  record(
    'pack.run',
    {
      runLotId,
      from: [{ fillLotId: finishLotId, grams: 6780, empties: true, restGrams: 18 }],
      jars: [{ sizeMl: 330, netGrams: 320, count: 21 }],
      sampleGrams: 40,
      leftoverGrams: 0,
      wasteGrams: 20,
      tallyReason: null,
      brine: 'fresh',
      storage: 'cold',
      closures: [
        { lotId: lots['jars1']!, count: 21 },
        { lotId: lots['lids1']!, count: 22 },
      ],
      retained: { count: 2, roomId: house.rooms.get('cellar')!, onDays: [30, 90, 180] },
      cleared: true,
    },
    at(55),
    'ines',
  );
}
