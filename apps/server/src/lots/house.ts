import { type SQL, sql } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { house } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';

/** Whether something stood in a vessel after it was last cleaned. A vessel holds one thing at a time: the last one decides. */
export const usedSince = (vessel: SQL): SQL =>
  sql`(${vessel}.cleaned_at is not null and (select greatest(coalesce(u.closed_at, 'infinity'), (select min(i.at) from live_movement i where i.to_lot = u.id)) > ${vessel}.cleaned_at from lot u where u.vessel_id = ${vessel}.id and u.kind = 'fill' order by u.seq desc limit 1) is true)`;

/** How a cleaning `c` was done, with the batch `s` of sanitiser where it names one. */
export const cleaningSaid = sql`concat_ws(', ', c.agent, s.code, c.dilution, round(c.contact_minutes)::text || ' min', case when c.rinsed then 'rinsed' end)`;

/** What a vessel was cleaned with last, how strong, how long, and whether it was rinsed. */
export const cleanedWith = (vessel: SQL): SQL => sql`(
  select ${cleaningSaid} from cleaning c left join sanitiser s on s.id = c.mix_id where c.vessel_id = ${vessel}.id order by c.at desc, c.seq desc limit 1)`;

/** The house's settings; a refusal when nothing has been founded yet. */
export async function loadHouse(reader: Reader): Promise<typeof house.$inferSelect> {
  const [found] = await reader.select().from(house);
  if (!found) throw refused('resource.unknown', 'This ledger has no house yet.');
  return found;
}

/** Under which other machines reach this house, as an owner set it; null: this machine alone, or nothing founded yet. */
export async function readAddress(reader: Reader): Promise<string | null> {
  const [of] = await reader.select({ settings: house.settings }).from(house);
  return of?.settings.address?.toLowerCase() ?? null;
}
