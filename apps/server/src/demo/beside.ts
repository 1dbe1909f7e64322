import type { BodyOf } from '@clear-tally/contract';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/**
 * What is made beside a sauce of the same mash: some of it dried for a powder, its water activity measured; and a glass
 * soaked in honey, which starts again and is kept cold.
 */
export function planBeside(diary: Diary, house: Founded, fillLotId: string): void {
  const before = diary.moment(2, 9);
  const vessel = (tag: string, brimMl: number, shape: 'pan' | 'glass'): string => {
    const vesselId = diary.id(before);
    diary.plan(
      before,
      async () =>
        void (await diary.record(
          'vessel.add',
          {
            vesselId,
            tag,
            shape,
            brimMl,
            maxFill: 0.9,
            minFill: 0.05,
            weightVolumeMl: 0,
            closure: 'loose',
            roomId: house.rooms.get('loft')!,
            inUse: true,
          },
          before,
          house.people.odile,
        )),
    );
    return vesselId;
  };
  const [tray, glass] = [vessel('P3', 6000, 'pan'), vessel('H1', 2000, 'glass')];
  const [honey, honeyLot] = [diary.id(before), diary.id(before)];
  diary.plan(before, async () => {
    await diary.record(
      'material.add',
      {
        materialId: honey,
        name: 'Heather honey',
        kind: 'flavouring',
        waterFraction: 0.18,
        saltFraction: 0,
        allergens: [],
        caution: 'Not for children under one year.',
        details: { standsFor: 'sweet', sugarPerKg: 790, costPerKg: 14, diet: ['vegetarian'] },
      },
      before,
      house.people.odile,
    );
    await diary.record(
      'supply.receive',
      {
        lotId: honeyLot,
        materialId: honey,
        supplierId: house.suppliers['lowmill']!,
        supplierLotCode: 'LMS/HH/0007',
        grams: 3000,
        useBy: null,
        condition: null,
      },
      before,
      house.people.tomasz,
    );
  });
  const record = <K extends Parameters<Diary['record']>[0]>(kind: K, body: BodyOf<K>, at: Date) =>
    diary.plan(at, async () => void (await diary.record(kind, body, at, house.people.ines)));
  const [dried, soaked] = [diary.id(before), diary.id(before)];
  record(
    'finish.begin',
    { finishLotId: dried, what: 'drying', vesselId: tray, from: [{ fillLotId, grams: 1200, of: 'solids' }] },
    diary.moment(1, 11),
  );
  record(
    'finish.dry',
    { finishLotId: dried, celsius: 55, hours: 16, leftGrams: 310, waterActivity: 0.46 },
    diary.moment(0, 6, 10),
  );
  record(
    'finish.begin',
    { finishLotId: soaked, what: 'infusion', vesselId: glass, from: [{ fillLotId, grams: 480, of: 'solids' }] },
    diary.moment(1, 11, 30),
  );
  record('finish.add', { finishLotId: soaked, fromLotId: honeyLot, grams: 700, as: 'sweet' }, diary.moment(1, 11, 40));
}
