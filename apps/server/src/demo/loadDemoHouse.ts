import type { Database } from '../db/database.js';
import { setPin } from '../session/session.js';
import { planDeliveries } from './deliveries.js';
import { DELIVERIES, USE_BY } from './whatCame.js';
import { planEquipment } from './equipment.js';
import { Diary } from './diary.js';
import { FOUNDED, planEarlier } from './earlier.js';
import { foundHouse } from './house.js';
import { DEMO_PEOPLE } from './people.js';
import { planBatches } from './planBatches.js';

const SEED = 20_261;

/** Who looks in later in the day finds this morning’s round walked, but for a few vessels. */
const NOON = 12;

/**
 * Ninefold Yard, eighteen months of it, through the product's own entries; without `earlier` only the eleven weeks that are
 * told batch by batch. All made up.
 */
export async function loadDemoHouse(
  db: Database,
  now: Date,
  {
    roundWalked = now.getUTCHours() >= NOON,
    earlier = true,
    look,
  }: { roundWalked?: boolean; earlier?: boolean; look?: () => Promise<unknown> } = {},
): Promise<void> {
  const diary = new Diary(db, now, SEED, roundWalked);
  const since = earlier ? FOUNDED : 84;
  const house = await foundHouse(diary, diary.moment(since, 9));
  for (const { key, pin } of DEMO_PEOPLE) await setPin(db, house.people[key].id, pin, true);
  const lots = planDeliveries(
    diary,
    house,
    [...DELIVERIES, ['water', 'water', 'ellery', 'tap 1, filter 7', 1, since - 4]],
    USE_BY,
  );
  const customers = planBatches(diary, house, lots, since - 2);
  if (earlier) planEarlier(diary, house, { customers, water: lots['water']! });
  planEquipment(diary, house, since);
  await diary.live(look);
}
