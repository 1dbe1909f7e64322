import type { Person, SignInReply } from '@clear-tally/contract';
import { asksPassphrase, isPassphrase } from '@clear-tally/core';
import { and, asc, eq, gt, isNull, lt, ne, sql } from 'drizzle-orm';
import { createHash, randomBytes } from 'node:crypto';
import { type Database, rows } from '../db/database.js';
import { credential, house, person, signIn } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';
import { RULES_PERSON } from '../journal/rulesPerson.js';
import { forget, isKnown, remember } from './devices.js';
import type { SignInLimits } from './limits.js';
import { hashPin, isLongEnough, LEAST_LETTERS, pinFault, pinMatches } from './pin.js';

/** A working day and a bit: nobody signs in twice in a shift. */
export const SESSION_HOURS = 14;

export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Who may be chosen on the sign-in page. The demo house shows its PINs; no other does. */
export async function signInChoices(db: Database): Promise<Omit<SignInReply, 'other'>> {
  const [of] = await db.select({ name: house.name }).from(house);
  // Who has no PIN signs in nowhere: the house’s rules, and people who have left.
  const people = await db
    .select({ id: person.id, name: person.name, initials: person.initials, role: person.role })
    .from(person)
    .innerJoin(credential, eq(credential.personId, person.id))
    .where(isNull(person.leftAt))
    .orderBy(asc(person.name));
  const demo = await db
    .select({ name: person.name, pin: credential.demoPin })
    .from(credential)
    .innerJoin(person, eq(person.id, credential.personId))
    .orderBy(asc(person.name));
  const demoPins = demo.filter((row): row is { name: string; pin: string } => row.pin !== null);
  return { house: of?.name ?? null, people, demoPins: demoPins.length > 0 ? demoPins : null };
}

export async function setPin(db: Pick<Database, 'insert'>, personId: string, pin: string, demo = false): Promise<void> {
  const row = { pinHash: await hashPin(pin), demoPin: demo ? pin : null };
  await db
    .insert(credential)
    .values({ personId, ...row })
    .onConflictDoUpdate({ target: credential.personId, set: row });
}

export interface SignInTry {
  readonly personId: string;
  readonly pin: string;
  readonly now: Date;
  /** Where it comes from. */
  readonly address: string;
  /** This machine itself, and no proxy before it. */
  readonly local: boolean;
  readonly device: string | undefined;
}

/**
 * Signs a person in: the token of the session, and the device's. The try is counted before the key is derived.
 * A PIN of four or five figures is enough where this person has signed in before, on the machine itself and in the
 * demo house.
 * @throws {Refused} wrong, locked, tried too often, or too short a PIN for this device
 */
export async function openSession(
  db: Database,
  limits: SignInLimits,
  input: SignInTry,
): Promise<{ token: string; device: string }> {
  const { personId, pin, now, address, local, device } = input;
  const known = await isKnown(db, device, personId);
  const one = { personId, address: known ? `device ${device}` : address, known: known || local };
  await limits.count(one);
  const [kept] = await db
    .select({ pinHash: credential.pinHash, demoPin: credential.demoPin })
    .from(credential)
    .where(eq(credential.personId, personId));
  if (!isLongEnough(pin) && !known && !local && !kept?.demoPin) {
    throw refused(
      'who.longerPin',
      'On a device where this person has not signed in before, a PIN of six figures or more is asked, or a passphrase. Sign in on the machine itself and choose one under “Who comes in”.',
      { field: 'pin' },
    );
  }
  await refuseShortOfPassphrase(db, kept?.demoPin ? { ...input, local: true } : input);
  // An unknown person costs the same time as a wrong PIN.
  const matches = await pinMatches(pin, kept?.pinHash ?? `${'00'.repeat(16)}:${'00'.repeat(32)}`, address);
  if (!kept || !matches)
    throw refused('who.wrongPin', 'This PIN does not fit this person. Look at the name, and type it again.', {
      field: 'pin',
    });
  await refuseEnded(db, personId, now);
  await limits.giveBack(one);
  await db.delete(signIn).where(lt(signIn.expiresAt, now));
  const token = randomBytes(32).toString('base64url');
  await db
    .insert(signIn)
    .values({ tokenHash: tokenHash(token), personId, expiresAt: new Date(now.getTime() + SESSION_HOURS * 3_600_000) });
  return { token, device: await remember(db, device, personId, now) };
}

/** @throws {Refused} this house asks a passphrase of this person on other devices, and figures were typed */
async function refuseShortOfPassphrase(
  db: Database,
  { personId, pin, local }: Pick<SignInTry, 'personId' | 'pin' | 'local'>,
): Promise<void> {
  if (local || isPassphrase(pin)) return;
  const [of] = await db
    .select({ settings: house.settings, role: person.role })
    .from(house)
    .leftJoin(person, eq(person.id, personId));
  if (!of || !asksPassphrase({ of: of.settings.passphraseFor, role: of.role ?? '', secret: pin })) return;
  throw refused(
    'who.longerPin',
    `On other devices this house asks a passphrase of you: ${LEAST_LETTERS} signs or more, not figures alone. Sign in on the machine itself and choose one under “Who comes in”, or ask an owner for one.`,
    { field: 'pin' },
  );
}

/** @throws {Refused} the last day of who looks for a time is over */
async function refuseEnded(db: Database, personId: string, now: Date): Promise<void> {
  const [of] = await rows<{ lastDay: string }>(
    db,
    sql`select last_day::text as "lastDay" from person where id = ${personId}
        and (${now.toISOString()}::timestamptz at time zone (select time_zone from house limit 1))::date > last_day`,
  );
  if (of)
    throw refused(
      'who.notAllowed',
      `This sign-in ended with ${of.lastDay}. An owner gives a later day on “Who comes in”.`,
      { field: 'pin' },
    );
}

/** Whether it is the PIN of who is signed in; every wrong one is counted. */
async function isOwnPin(
  db: Database,
  limits: SignInLimits,
  { personId, pin, address }: { personId: string; pin: string; address: string },
): Promise<boolean> {
  const one = { personId, address, known: true };
  await limits.count(one);
  const [kept] = await db
    .select({ pinHash: credential.pinHash })
    .from(credential)
    .where(eq(credential.personId, personId));
  if (!kept || !(await pinMatches(pin, kept.pinHash, address))) return false;
  await limits.giveBack(one);
  return true;
}

/**
 * A person changes their own PIN or passphrase: every other sign-in of theirs ends, and every other device asks anew.
 * @throws {Refused} the old one is wrong, the new one is too short or the first anybody would try
 */
export async function changePin(
  db: Database,
  limits: SignInLimits,
  input: {
    personId: string;
    old: string;
    pin: string;
    address: string;
    token: string;
    device: string | undefined;
    now: Date;
  },
): Promise<void> {
  const { personId, old, pin, address, token, device, now } = input;
  if (!(await isOwnPin(db, limits, { personId, pin: old, address })))
    throw refused('who.wrongPin', 'The PIN you have now is another one. Type it again.', { field: 'old' });
  const fault = pinFault(pin);
  if (fault) throw refused('shape.invalid', fault, { field: 'pin' });
  await setPin(db, personId, pin);
  await db.delete(signIn).where(and(eq(signIn.personId, personId), ne(signIn.tokenHash, tokenHash(token))));
  await forget(db, personId);
  // On this one somebody just proved who they are.
  if (device) await remember(db, device, personId, now);
}

/** As long as a signature may take after the PIN was typed. */
const SIGN_MS = 2 * 60_000;

/**
 * Who is signed in proves again, with their own PIN, that it is them: what they sign next is theirs.
 * @throws {Refused} a wrong PIN, or tried too often
 */
export async function proveAgain(
  db: Database,
  limits: SignInLimits,
  input: { personId: string; pin: string; address: string; token: string; now: Date },
): Promise<void> {
  const { personId, pin, address, token, now } = input;
  if (!(await isOwnPin(db, limits, { personId, pin, address })))
    throw refused('who.wrongPin', 'This is not your PIN. A signature is given with one’s own.', { field: 'pin' });
  await db
    .update(signIn)
    .set({ signedAt: now })
    .where(eq(signIn.tokenHash, tokenHash(token)));
}

/**
 * Uses a proof up: one signature each.
 * @throws {Refused} none was given within two minutes
 */
export async function useProof(db: Database, token: string, now: Date): Promise<void> {
  const [used] = await db
    .update(signIn)
    .set({ signedAt: null })
    .where(and(eq(signIn.tokenHash, tokenHash(token)), gt(signIn.signedAt, new Date(now.getTime() - SIGN_MS))))
    .returning({ personId: signIn.personId });
  if (!used)
    throw refused('who.signAgain', 'A signature asks for your PIN, typed now. Type it and sign again.', {
      field: 'pin',
    });
}

/**
 * An owner gives a person of the house a PIN: one who has none yet, has come back, or has forgotten it. It is theirs to
 * change; whatever they are signed in on asks anew.
 * @throws {Refused} nobody of this house, or a PIN that is too short
 */
export async function givePin(db: Database, personId: string, pin: string): Promise<void> {
  const [of] = await db.select({ leftAt: person.leftAt }).from(person).where(eq(person.id, personId));
  if (!of || of.leftAt || personId === RULES_PERSON.personId)
    throw refused('resource.unknown', 'No such person is in this house now.', { field: 'personId' });
  const fault = pinFault(pin);
  if (fault) throw refused('shape.invalid', fault, { field: 'pin' });
  await setPin(db, personId, pin);
  await db.delete(signIn).where(eq(signIn.personId, personId));
  await forget(db, personId);
}

/** A person who has left signs in nowhere: sign-ins, devices and PIN end. */
/** Wherever this person is signed in, it is asked for anew; their PIN stays. */
export async function endSignIns(db: Pick<Database, 'delete'>, personId: string): Promise<void> {
  await db.delete(signIn).where(eq(signIn.personId, personId));
}

export async function endAccess(db: Pick<Database, 'delete'>, personId: string): Promise<void> {
  await db.delete(signIn).where(eq(signIn.personId, personId));
  await forget(db, personId);
  await db.delete(credential).where(eq(credential.personId, personId));
}

export async function personOf(db: Database, token: string | undefined, now: Date): Promise<Person | null> {
  if (!token) return null;
  let question = asked.get(db);
  if (!question) asked.set(db, (question = whoIsSignedIn(db)));
  const [found] = await question.execute({ tokenHash: tokenHash(token), now: now.toISOString() });
  return found ?? null;
}

/** The last day of who looks for a time is not over, by the house’s clock. */
const mayStillComeIn = sql`(${person.lastDay} is null or (${sql.placeholder('now')}::timestamptz at time zone (select time_zone from house limit 1))::date <= ${person.lastDay})`;

/** Asked at every request: put together once. */
const whoIsSignedIn = (db: Database) =>
  db
    .select({ id: person.id, name: person.name, initials: person.initials, role: person.role })
    .from(signIn)
    .innerJoin(person, eq(person.id, signIn.personId))
    .where(
      and(
        eq(signIn.tokenHash, sql.placeholder('tokenHash')),
        sql`${signIn.expiresAt} > ${sql.placeholder('now')}`,
        isNull(person.leftAt),
        mayStillComeIn,
      ),
    )
    .prepare('who_is_signed_in');

const asked = new WeakMap<Database, ReturnType<typeof whoIsSignedIn>>();

export async function closeSession(db: Database, token: string | undefined): Promise<void> {
  if (token) await db.delete(signIn).where(eq(signIn.tokenHash, tokenHash(token)));
}
