import { calendarDay, isoDay, keeping } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { house } from '../db/schema/house.js';
import { happened } from '../journal/asItHappened.js';
import { refused } from '../journal/refused.js';
import type { LotRow } from './lots.js';

/** The house's calendar day of a moment. */
export async function houseDay(reader: Reader, at: Date): Promise<string> {
  const [of] = await reader.select({ timeZone: house.timeZone }).from(house).where(eq(house.id, 1));
  return isoDay(at.getTime(), of!.timeZone);
}

/** Stock past its date, or opened too long, goes in only with a written reason. */
export async function refusePast(reader: Reader, supply: LotRow, at: Date, reason: string | undefined): Promise<void> {
  if (supply.kind !== 'supply' || reason || happened(reader)) return;
  const { verdict, until } = keeping({
    today: await houseDay(reader, at),
    useBy: supply.useBy,
    keepsUntil: supply.keepsUntil,
    state: supply.state,
  });
  if (verdict === 'past')
    throw refused(
      'stock.past',
      `${supply.code} was to be used by ${until && calendarDay(until)}. Take a fresher lot; or look at it, smell it, and write why it goes in.`,
      { field: 'pastReason', facts: { until } },
    );
}
