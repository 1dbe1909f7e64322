import { createHash, randomBytes } from 'node:crypto';
import { and, asc, eq, gt, lt, sql } from 'drizzle-orm';
import type { Person, SignInReply } from '@clear-tally/contract';
import type { Database } from '../db/database.js';
import { credential, house, person, signIn } from '../db/schema/index.js';
import { refused } from '../record/refused.js';
import { hashPin, pinMatches } from './pin.js';

/** A working day and a bit: nobody signs in twice in a shift. */
export const SESSION_HOURS = 14;
const FAILURES_BEFORE_LOCK = 5;
const LOCK_MINUTES = 5;

const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Who may be chosen on the sign-in page. The demo house shows its PINs; no other does. */
export async function signInChoices(db: Database): Promise<SignInReply> {
  const [of] = await db.select({ name: house.name }).from(house);
  // Who has no PIN signs in nowhere: the house’s rules, and people who have left.
  const people = await db.select({ id: person.id, name: person.name, initials: person.initials, role: person.role }).from(person).innerJoin(credential, eq(credential.personId, person.id)).orderBy(asc(person.name));
  const demo = await db.select({ name: person.name, pin: credential.demoPin }).from(credential).innerJoin(person, eq(person.id, credential.personId)).orderBy(asc(person.name));
  const demoPins = demo.filter((row): row is { name: string; pin: string } => row.pin !== null);
  return { house: of?.name ?? null, people, demoPins: demoPins.length > 0 ? demoPins : null };
}

export async function setPin(db: Database, personId: string, pin: string, demo = false): Promise<void> {
  const row = { pinHash: await hashPin(pin), failures: 0, lockedUntil: null, demoPin: demo ? pin : null };
  await db.insert(credential).values({ personId, ...row }).onConflictDoUpdate({ target: credential.personId, set: row });
}

/** Signs a person in and returns the token of the cookie. Locked for five minutes after five wrong PINs. */
export async function openSession(db: Database, input: { personId: string; pin: string; now: Date }): Promise<string> {
  const { personId, pin, now } = input;
  const [known] = await db.select().from(credential).where(eq(credential.personId, personId));
  if (known?.lockedUntil && known.lockedUntil > now) {
    throw refused('who.locked', `Too many wrong PINs. This sign-in is locked until ${known.lockedUntil.toISOString().slice(11, 16)} UTC.`, { field: 'pin', facts: { until: known.lockedUntil.toISOString() } });
  }
  // An unknown person costs the same time as a wrong PIN.
  const matches = await pinMatches(pin, known?.pinHash ?? `${'00'.repeat(16)}:${'00'.repeat(32)}`);
  if (!known || !matches) {
    if (known) await countFailure(db, personId, now);
    throw refused('who.wrongPin', 'This PIN does not fit this person. Look at the name, and type it again.', { field: 'pin' });
  }
  await db.update(credential).set({ failures: 0, lockedUntil: null }).where(eq(credential.personId, personId));
  await db.delete(signIn).where(lt(signIn.expiresAt, now));
  const token = randomBytes(32).toString('base64url');
  await db.insert(signIn).values({ tokenHash: tokenHash(token), personId, expiresAt: new Date(now.getTime() + SESSION_HOURS * 3_600_000) });
  return token;
}

async function countFailure(db: Database, personId: string, now: Date): Promise<void> {
  const lockedUntil = new Date(now.getTime() + LOCK_MINUTES * 60_000);
  await db.update(credential).set({
    failures: sql`case when ${credential.failures} + 1 >= ${FAILURES_BEFORE_LOCK} then 0 else ${credential.failures} + 1 end`,
    lockedUntil: sql`case when ${credential.failures} + 1 >= ${FAILURES_BEFORE_LOCK} then ${lockedUntil.toISOString()}::timestamptz else null end`,
  }).where(eq(credential.personId, personId));
}

export async function personOf(db: Database, token: string | undefined, now: Date): Promise<Person | null> {
  if (!token) return null;
  const [found] = await db.select({ id: person.id, name: person.name, initials: person.initials, role: person.role })
    .from(signIn).innerJoin(person, eq(person.id, signIn.personId)).where(and(eq(signIn.tokenHash, tokenHash(token)), gt(signIn.expiresAt, now)));
  return found ?? null;
}

export async function closeSession(db: Database, token: string | undefined): Promise<void> {
  if (token) await db.delete(signIn).where(eq(signIn.tokenHash, tokenHash(token)));
}
