import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/** Two orders that wait: one that can be picked, one of which something is missing. */
export function planOrders(diary: Diary, house: Founded, customers: Readonly<Record<string, string>>): void {
  const at = diary.moment(1, 17, 5);
  const take = (
    customer: string,
    inDays: number,
    lines: readonly (readonly [formula: 'turnips' | 'shred' | 'mash', size: 0 | 1, count: number])[],
    note: string | null,
  ): void => {
    const orderId = diary.id(at);
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'order.take',
          {
            orderId,
            customerId: customers[customer]!,
            wantedOn: diary.day(inDays),
            lines: lines.map(([formula, size, count]) => ({
              formulaId: house.formulas[formula].formulaId,
              sizeMl: house.formulas[formula].jarSizes[size]!.sizeMl,
              count,
            })),
            note,
          },
          at,
          house.people.ines,
        )),
    );
  };
  take(
    'ladle',
    2,
    [
      ['shred', 0, 18],
      ['mash', 0, 12],
    ],
    'before ten, by the yard door',
  );
  take('bridges', 4, [['turnips', 1, 24]], null);
}
