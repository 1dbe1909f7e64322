import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/** Fresh produce that was over when its batches were made, and how many days ago it went over the stall. */
const SOLD_FRESH: Readonly<Record<string, number>> = {
  physalis0: 69,
  chilli0: 69,
  kohlrabi0: 61,
  celeriac0: 61,
  turnip0: 48,
  thyme0: 48,
  physalis1: 40,
  chilli1: 40,
  kohlrabi1: 38,
  celeriac1: 38,
  turnip1: 24,
  thyme1: 24,
  kohlrabi2: 17,
  celeriac2: 17,
  physalis2: 7,
  chilli2: 7,
};

/** No house keeps the rest of a crate for weeks: what is over is sold fresh, and its lot counted down to nothing. */
export function planSoldFresh(diary: Diary, house: Founded, lots: Readonly<Record<string, string>>): void {
  for (const [key, daysAgo] of Object.entries(SOLD_FRESH)) {
    const at = diary.moment(daysAgo, 16, 40);
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'stock.count',
          { lotId: lots[key]!, grams: 0, reason: 'what was over, sold fresh' },
          at,
          house.people.ines,
        )),
    );
  }
}
