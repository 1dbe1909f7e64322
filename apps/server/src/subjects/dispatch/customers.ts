import { eq } from 'drizzle-orm';
import { room } from '../../db/schema/house.js';
import { customer } from '../../db/schema/jars.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';

/** A customer that an entry names. @throws {Refused} there is none */
export async function customerIn(recording: InHand, id: string): Promise<typeof customer.$inferSelect> {
  const [of] = await recording.tx.select().from(customer).where(eq(customer.id, id));
  if (!of)
    throw refused('customer.unknown', 'This customer is not known in this house. Add who gets the jars first.', {
      field: 'customerId',
    });
  return of;
}

/** A room that jars are moved to. @throws {Refused} there is none */
export async function roomIn(recording: InHand, id: string): Promise<string> {
  const [of] = await recording.tx.select({ name: room.name }).from(room).where(eq(room.id, id));
  if (!of) throw refused('resource.unknown', 'There is no such place in this house.', { field: 'roomId' });
  return of.name;
}

export const customerAdded = kind('customer.add', {
  who: 'maker',
  words: 'Customer',
  does: 'who gets jars: name, kind, address, and who is called when something is wrong',
  makes: 'customerId',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    const { customerId, customerKind, ...more } = body;
    await tx.insert(customer).values({ id: customerId, kind: customerKind, ...more, closed: false, seq });
    return {};
  },
  line: ({ entry }) => ({ what: 'Customer', words: entry.body.name }),
});

export const customerChanged = kind('customer.change', {
  who: 'maker',
  words: 'Customer changed',
  does: 'a customer as they are from now on; closed: nothing more is sent there, and what they have stays known',
  correct: 'book',
  record: async (recording) => {
    const { customerId, customerKind, ...more } = recording.body;
    await customerIn(recording, customerId);
    await recording.tx
      .update(customer)
      .set({ kind: customerKind, ...more })
      .where(eq(customer.id, customerId));
    return {};
  },
  line: ({ entry }) => ({
    what: entry.body.closed ? 'Customer closed' : 'Customer changed',
    words: entry.body.name,
  }),
});
