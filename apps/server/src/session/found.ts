import type { BodyOf, Entry } from '@clear-tally/contract';
import type { MassUnit } from '@clear-tally/core';
import { v7 } from 'uuid';
import type { Database } from '../db/database.js';
import { house } from '../db/schema/house.js';
import { recordEntries } from '../journal/record.js';
import { refused } from '../journal/refused.js';
import { setPin } from './session.js';
import { pinFault } from './pin.js';

/** What a house begins with until it says otherwise: the limit most houses keep, and three hundredths of salt. */
const FIRST = { acidLimit: 4.2, saltTolerance: 0.03 };

/**
 * Founds the house of an empty ledger, with its first owner and their PIN.
 * @throws {Refused} a house is there already, a time zone nobody knows, a PIN anybody would try first
 */
export async function foundHouse(
  db: Database,
  input: {
    readonly house: Omit<BodyOf<'house.found'>, 'acidLimit' | 'saltTolerance'>;
    readonly owner: { readonly name: string; readonly initials: string; readonly pin: string };
    readonly massUnit?: MassUnit | undefined;
    readonly now: Date;
  },
): Promise<string> {
  const [already] = await db.select({ name: house.name }).from(house);
  if (already)
    throw refused('name.taken', `This ledger belongs to ${already.name} already. One ledger keeps one house.`, {
      field: 'name',
    });
  if (!knowsZone(input.house.timeZone))
    throw refused(
      'shape.invalid',
      `“${input.house.timeZone}” was given; no time zone of that name is known. One reads like Europe/Dublin.`,
      { field: 'timeZone' },
    );
  const fault = pinFault(input.owner.pin);
  if (fault) throw refused('shape.invalid', fault, { field: 'pin' });
  const personId = v7();
  const { name, initials, pin } = input.owner;
  const entry = <K extends Entry['kind']>(kind: K, body: BodyOf<K>): Entry =>
    ({
      id: v7(),
      kind,
      happenedAt: input.now.toISOString(),
      by: personId,
      device: 'founding',
      body,
    }) as unknown as Entry;
  await recordEntries(db, {
    entries: [
      entry('house.found', { ...input.house, ...FIRST }),
      entry('person.add', { personId, name, initials, role: 'owner' }),
      ...(input.massUnit ? [entry('house.set', { massUnit: input.massUnit })] : []),
    ],
    actor: { id: personId, role: 'owner' },
    now: input.now,
  });
  await setPin(db, personId, pin);
  return personId;
}

function knowsZone(timeZone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone });
    return true;
  } catch {
    return false;
  }
}
