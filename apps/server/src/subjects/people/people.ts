import type { BodyOf } from '@clear-tally/contract';
import { calendarDay } from '@clear-tally/core';
import { and, eq, isNull, ne } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { person } from '../../db/schema/house.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { RULES_PERSON } from '../../journal/rulesPerson.js';
import { endAccess, endSignIns } from '../../session/session.js';

const untilWords = ({ name, lastDay }: Pick<BodyOf<'person.add'>, 'name' | 'lastDay'>): string =>
  lastDay ? `${name}, until ${calendarDay(lastDay)}` : name;

export const personAdd = kind('person.add', {
  who: 'owner',
  words: 'Person added',
  does: 'the house is set up',
  makes: 'personId',
  correct: 'book',
  record: async ({ tx, body }) => {
    const { personId, name, initials, role } = body;
    await tx.insert(person).values({ id: personId, name, initials, role, lastDay: lastDayOf(body) });
    return {};
  },
  line: ({ entry }) => ({ what: 'Person added', words: untilWords(entry.body) }),
});

export const personChanged = kind('person.change', {
  who: 'owner',
  words: 'Person changed',
  does: 'a person is called otherwise, or has other rights, from now on. The last owner stays one',
  correct: { never: 'Change it again: what is written in the book keeps the name it was written under.' },
  record: async ({ tx, body }) => {
    const [of] = await tx.select().from(person).where(eq(person.id, body.personId));
    if (!of || of.id === RULES_PERSON.personId)
      throw refused('resource.unknown', 'No such person is in this house. Choose them from the list.', {
        field: 'personId',
      });
    if (of.role === 'owner' && body.role !== 'owner' && of.leftAt === null)
      await refuseLastOwner(tx, of, `stops being one`);
    const { name, initials, role } = body;
    const lastDay = lastDayOf(body);
    await tx.update(person).set({ name, initials, role, lastDay }).where(eq(person.id, of.id));
    // What somebody may not do any more they do not go on doing on another tablet.
    if (of.role !== role || of.lastDay !== lastDay) await endSignIns(tx, of.id);
    return {};
  },
  line: ({ entry }) => ({ what: 'Person changed', words: `${untilWords(entry.body)}, ${entry.body.role}` }),
});

/** An end is for who looks: who works here leaves, and is said to have left. */
function lastDayOf({ role, lastDay }: Pick<BodyOf<'person.add'>, 'role' | 'lastDay'>): string | null {
  if (!lastDay) return null;
  if (role !== 'inspector')
    throw refused('who.notAllowed', 'An end date is given to an inspector. Who works here leaves on “Who comes in”.', {
      field: 'lastDay',
    });
  return lastDay;
}

async function refuseLastOwner(
  tx: Transaction,
  of: { readonly id: string; readonly name: string },
  before: string,
): Promise<void> {
  const others = await tx
    .select({ id: person.id })
    .from(person)
    .where(
      and(eq(person.role, 'owner'), isNull(person.leftAt), ne(person.id, of.id), ne(person.id, RULES_PERSON.personId)),
    );
  if (others.length === 0)
    throw refused(
      'who.notAllowed',
      `${of.name} is the only owner. A house needs one: add another before ${of.name} ${before}.`,
      {
        field: 'personId',
      },
    );
}

export const personLeave = kind('person.leave', {
  who: 'owner',
  words: 'Person left',
  does: 'somebody has left, or has come back; their sign-ins end, what they recorded keeps their name. The last owner stays',
  correct: { never: 'Their sign-ins have ended with it. Say on “Who comes in” that they are back, or have left.' },
  record: async ({ tx, body, at }) => {
    const [of] = await tx.select().from(person).where(eq(person.id, body.personId));
    if (!of || of.id === RULES_PERSON.personId)
      throw refused('resource.unknown', 'No such person is in this house. Choose them from the list.', {
        field: 'personId',
      });
    if (body.left === (of.leftAt !== null))
      throw refused(
        'correction.nothingChanged',
        `${of.name} ${body.left ? 'has left already' : 'is in the house'}. Nothing was changed.`,
        { field: 'personId' },
      );
    if (body.left && of.role === 'owner') await refuseLastOwner(tx, of, 'leaves');
    await tx
      .update(person)
      .set({ leftAt: body.left ? at : null })
      .where(eq(person.id, of.id));
    if (body.left) await endAccess(tx, of.id);
    return {};
  },
  line: ({ entry }) => ({ what: entry.body.left ? 'Left the house' : 'Is back', words: entry.body.reason }),
});
