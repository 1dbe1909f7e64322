import type { Diary } from './diary.js';
import type { Founded } from './house.js';
import type { BatchPlan } from './batchPlan.js';

/** Jars of the smaller size and a case of twelve of the larger, from one vessel. */
export function planPacking(
  diary: Diary,
  house: Founded,
  plan: BatchPlan,
  input: { fillLotId: string; inGrams: number; index: number },
): { runLotId: string; count: number } {
  const at = diary.moment(plan.packedDaysAgo!, 10 + input.index * 2, 20);
  const runLotId = diary.id(at);
  const grams = Math.round(input.inGrams * 0.985);
  const [small, large] = house.formulas[plan.formula].jarSizes as [
    { sizeMl: number; fillGrams: number },
    { sizeMl: number; fillGrams: number },
  ];
  const largeCount = grams > 20_000 ? 12 : 0;
  const smallCount = Math.floor((grams * 0.98 - largeCount * large.fillGrams) / small.fillGrams);
  const left = grams - smallCount * small.fillGrams - largeCount * large.fillGrams;
  const sampleGrams = 60;
  const wasteGrams = Math.round(left * 0.35);
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'pack.run',
        {
          runLotId,
          from: [{ fillLotId: input.fillLotId, grams, empties: true, restGrams: Math.round(input.inGrams * 0.008) }],
          jars: [
            { sizeMl: small.sizeMl, netGrams: small.fillGrams, count: smallCount },
            ...(largeCount > 0 ? [{ sizeMl: large.sizeMl, netGrams: large.fillGrams, count: largeCount }] : []),
          ],
          sampleGrams,
          wasteGrams,
          leftoverGrams: Math.max(0, left - sampleGrams - wasteGrams),
          tallyReason: null,
          brine: 'own',
          storage: plan.hot ? 'ambient' : plan.formula === 'mash' ? 'cellar' : 'cold',
        },
        at,
        house.people.ines,
      )),
  );
  return { runLotId, count: smallCount + largeCount };
}
