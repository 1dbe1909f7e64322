import { and, eq } from 'drizzle-orm';
import { createHash, randomBytes } from 'node:crypto';
import type { Database } from '../db/database.js';
import { knownDevice } from '../db/schema/house.js';

const hash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Whether a person has signed in on this device before. */
export async function isKnown(db: Database, token: string | undefined, personId: string): Promise<boolean> {
  if (!token) return false;
  const found = await db
    .select({ since: knownDevice.since })
    .from(knownDevice)
    .where(and(eq(knownDevice.tokenHash, hash(token)), eq(knownDevice.personId, personId)));
  return found.length > 0;
}

/** Remembers that a person signed in on this device; a device without a token gets one. */
export async function remember(db: Database, token: string | undefined, personId: string, now: Date): Promise<string> {
  const kept = token ?? randomBytes(24).toString('base64url');
  await db
    .insert(knownDevice)
    .values({ tokenHash: hash(kept), personId, since: now })
    .onConflictDoNothing();
  return kept;
}

/** Of a person who has left, or whose PIN was changed: every device asks anew. */
export async function forget(db: Pick<Database, 'delete'>, personId: string): Promise<void> {
  await db.delete(knownDevice).where(eq(knownDevice.personId, personId));
}
