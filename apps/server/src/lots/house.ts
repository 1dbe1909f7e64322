import { type SQL, sql } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { once } from '../db/once.js';
import { house, houseRule, room } from '../db/schema/house.js';
import { customer } from '../db/schema/jars.js';
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
export const loadHouse = (reader: Reader): Promise<typeof house.$inferSelect> =>
  once(reader, 'house', async () => {
    const [found] = await reader.select().from(house);
    if (!found) throw refused('resource.unknown', 'This ledger has no house yet.');
    return found;
  });

/** What this house chose of each rule it may choose of. */
export const chosenRules = (reader: Reader): Promise<Readonly<Record<string, string>>> =>
  once(reader, 'rules', async () =>
    Object.fromEntries((await reader.select().from(houseRule)).map(({ rule, option }) => [rule, option])),
  );

/** Names of its rooms, by their id. */
export const roomNames = (reader: Reader): Promise<ReadonlyMap<string, string>> =>
  once(reader, 'rooms', async () => namesIn(await reader.select({ id: room.id, name: room.name }).from(room)));

/** Names of who gets its jars, by their id. */
export const customerNames = (reader: Reader): Promise<ReadonlyMap<string, string>> =>
  once(reader, 'customers', async () =>
    namesIn(await reader.select({ id: customer.id, name: customer.name }).from(customer)),
  );

const namesIn = (found: readonly { id: string; name: string }[]): Map<string, string> =>
  new Map(found.map(({ id, name }) => [id, name]));

/** Under which other machines reach this house, as an owner set it; null: this machine alone, or nothing founded yet. */
export async function readAddress(reader: Reader): Promise<string | null> {
  const [of] = await reader.select({ settings: house.settings }).from(house);
  return of?.settings.address?.toLowerCase() ?? null;
}
