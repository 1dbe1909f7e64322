import { and, desc, eq, isNull } from 'drizzle-orm';
import { createHash, randomBytes } from 'node:crypto';
import type { Database } from '../db/database.js';
import { calendarKey } from '../db/schema/watching.js';

const hash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** When a person's private calendar address was made; null when there is none. */
export async function calendarMade(db: Database, personId: string): Promise<Date | null> {
  const [key] = await db
    .select({ madeAt: calendarKey.madeAt })
    .from(calendarKey)
    .where(and(eq(calendarKey.personId, personId), isNull(calendarKey.revokedAt)))
    .orderBy(desc(calendarKey.madeAt));
  return key?.madeAt ?? null;
}

export async function revokeCalendar(db: Database, personId: string, now: Date): Promise<void> {
  await db
    .update(calendarKey)
    .set({ revokedAt: now })
    .where(and(eq(calendarKey.personId, personId), isNull(calendarKey.revokedAt)));
}

/** A new token, shown once and kept as its hash; the one before ends. */
export async function makeCalendar(db: Database, personId: string, now: Date): Promise<string> {
  await revokeCalendar(db, personId, now);
  const token = randomBytes(24).toString('base64url');
  await db.insert(calendarKey).values({ tokenHash: hash(token), personId, madeAt: now });
  return token;
}

export async function isCalendar(db: Database, token: string): Promise<boolean> {
  const found = await db
    .select({ personId: calendarKey.personId })
    .from(calendarKey)
    .where(and(eq(calendarKey.tokenHash, hash(token)), isNull(calendarKey.revokedAt)));
  return found.length > 0;
}
