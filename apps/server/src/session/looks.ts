import { desc, eq, sql } from 'drizzle-orm';
import type { Database, Reader } from '../db/database.js';
import { look } from '../db/schema/house.js';

/** What every page asks by itself says nothing of who looks. */
const OF_THE_FRAME = /^\/api\/(?:house|untrained|shelf|session|live|devices|timers|network|people)\b/;
/** A page that reads itself anew is one look. */
const ONE_LOOK_MS = 60_000;
const MOST_SHOWN = 500;

/** Writes down what an inspector looked at; the same again within a minute is the same look. */
export async function noteLook(db: Database, personId: string, path: string, now: Date): Promise<void> {
  if (OF_THE_FRAME.test(path)) return;
  const what = readablePath(path)
    .replace(/^\/api\//, '')
    .slice(0, 200);
  await db.execute(sql`
    insert into look (person_id, at, what) select ${personId}, ${now.toISOString()}, ${what}
    where not exists (select 1 from look where person_id = ${personId} and what = ${what}
      and at > ${new Date(now.getTime() - ONE_LOOK_MS).toISOString()})`);
}

/** As it was typed; one that cannot be read stays as it came. */
function readablePath(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}

/** What somebody looked at, the newest first. */
export async function readLooks(reader: Reader, personId: string): Promise<{ at: string; what: string }[]> {
  const found = await reader
    .select({ at: look.at, what: look.what })
    .from(look)
    .where(eq(look.personId, personId))
    .orderBy(desc(look.at), desc(look.id))
    .limit(MOST_SHOWN);
  return found.map(({ at, what }) => ({ at: at.toISOString(), what }));
}
