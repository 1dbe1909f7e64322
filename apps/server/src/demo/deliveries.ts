import type { Diary } from './diary.js';
import type { Founded } from './house.js';

export type DeliveryPlan = [
  key: string,
  material: string,
  supplier: string,
  theirs: string,
  kg: number,
  daysAgo: number,
];

/** What was seen at the door of what asks for it. */
const AT_DOOR: Readonly<Record<string, { variety: string; celsius: number }>> = {
  collard1: { variety: 'Broad leaf', celsius: 7.5 },
};

/** What came in, as it came: our code, the supplier’s own. The lot of each by its key. */
export function planDeliveries(
  diary: Diary,
  house: Founded,
  deliveries: readonly DeliveryPlan[],
  useBy: Readonly<Record<string, number>> = {},
): Record<string, string> {
  const lots: Record<string, string> = {};
  for (const [index, [key, material, supplier, theirs, kg, daysAgo]] of deliveries.entries()) {
    const at = diary.moment(daysAgo, 7, 10 + (index % 40));
    const lotId = diary.id(at);
    lots[key] = lotId;
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'supply.receive',
          {
            lotId,
            materialId: house.materials[material]!,
            supplierId: house.suppliers[supplier]!,
            supplierLotCode: theirs,
            grams: kg * 1000,
            useBy: useBy[key] === undefined ? null : diary.day(useBy[key]),
            condition: supplier === 'causeway' ? 'fresh, firm, no mould' : null,
            ...(AT_DOOR[key] ? { door: AT_DOOR[key] } : {}),
          },
          at,
          house.people.tomasz,
        )),
    );
  }
  return lots;
}
