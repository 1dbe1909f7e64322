import { calendarDay } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { customer, customerOrder } from '../../db/schema/jars.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { formulaStands } from '../../lots/formulaStands.js';
import { nextOfYear } from '../../lots/nextOfYear.js';

/** An order that waits; a refusal where it does not. */
export async function openOrder(tx: Transaction, orderId: string): Promise<typeof customerOrder.$inferSelect> {
  const [of] = await tx.select().from(customerOrder).where(eq(customerOrder.id, orderId));
  if (!of) throw refused('order.unknown', 'This order is not known in this house.', { field: 'orderId' });
  if (of.state !== 'open' && !happened(tx))
    throw refused(
      'order.closed',
      `${of.code} is ${of.state === 'sent' ? 'sent' : `closed: ${of.reason ?? ''}`} already.`,
      { field: 'orderId' },
    );
  return of;
}

export const orderTaken = kind('order.take', {
  who: 'maker',
  words: 'Order',
  does: 'what a customer wants, by product and size, and until when',
  correct: 'book',
  record: async ({ tx, body, entry, at, seq, anew }) => {
    const [to] = await tx.select().from(customer).where(eq(customer.id, body.customerId));
    if (!to)
      throw refused('customer.unknown', 'This customer is not known in this house. Add who orders first.', {
        field: 'customerId',
      });
    if (to.closed && !happened(tx))
      throw refused('customer.closed', `Nothing more is sent to ${to.name}. Open the customer again first.`, {
        field: 'customerId',
      });
    for (const { formulaId } of body.lines) {
      if (!(await formulaStands(tx, formulaId)))
        throw refused('formula.unknown', 'This product is not known in this house.', { field: 'lines' });
    }
    const known = anew?.facts['code'];
    const code = typeof known === 'string' ? known : await nextOfYear(tx, customerOrder, 'O', at);
    const { orderId, ...more } = body;
    await tx
      .insert(customerOrder)
      .values({ id: orderId, code, ...more, state: 'open', reason: null, by: entry.by, at, seq });
    return { facts: { code, customer: to.name } };
  },
  line: ({ entry, facts }) => ({
    what: `Order ${String(facts['code'] ?? '')}`,
    words: [facts['customer'], entry.body.wantedOn && `wanted ${calendarDay(entry.body.wantedOn)}`, entry.body.note]
      .filter(Boolean)
      .join(' · '),
    figure: `${entry.body.lines.reduce((sum, { count }) => sum + count, 0)} jars`,
  }),
});

export const orderClosed = kind('order.close', {
  who: 'maker',
  words: 'Order closed',
  does: 'an order that is not filled any more, with its reason',
  correct: 'book',
  record: async ({ tx, body }) => {
    const of = await openOrder(tx, body.orderId);
    await tx.update(customerOrder).set({ state: 'closed', reason: body.reason }).where(eq(customerOrder.id, of.id));
    return { facts: { code: of.code } };
  },
  line: ({ entry, facts }) => ({ what: `Order ${String(facts['code'] ?? '')} closed`, words: entry.body.reason }),
});
