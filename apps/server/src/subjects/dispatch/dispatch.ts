import { GONE_WORDS } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { customerOrder, dispatch } from '../../db/schema/jars.js';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { addMovements, loadLot } from '../../lots/lots.js';
import { nextOfYear } from '../../lots/nextOfYear.js';
import { jarsOf } from '../../lots/runs.js';
import { openOrder } from './orders.js';
import { moveJars, type Leaving } from './moveJars.js';
import { customerIn, roomIn } from './customers.js';

/** Jars that leave for good or for a while; each must be in the house. */
export async function jarsGone(
  recording: InHand,
  going: Leaving,
): Promise<{ lots: string[]; count: number; runs: string[] }> {
  return await moveJars(recording, going, { from: 'house' });
}

export const jarsMoved = kind('jars.move', {
  who: 'maker',
  words: 'Jars moved',
  does: 'jars to another place of the house: the cold store, the van, the stall',
  correct: 'ledger',
  record: async (recording) => {
    const { jars, roomId } = recording.body;
    const name = await roomIn(recording, roomId);
    const { lots, count } = await moveJars(
      recording,
      { jars, to: { kind: 'house', roomId }, note: null },
      { from: 'house' },
    );
    return { facts: { count, to: name }, lots };
  },
  line: ({ facts }) => ({
    what: `Jars to ${String(facts['to'])}`,
    words: null,
    figure: `${String(facts['count'])} jars`,
  }),
});

export const jarsDispatched = kind('jars.dispatch', {
  who: 'maker',
  words: 'Dispatched',
  does: 'jars to a customer, with a delivery note; nothing unreleased, withdrawn or held leaves',
  correct: 'ledger',
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body, entry, at, seq } = recording;
    const to = await customerIn(recording, body.customerId);
    if (to.closed && !happened(tx))
      throw refused('customer.closed', `Nothing more is sent to ${to.name}. Open the customer again first.`, {
        field: 'customerId',
      });
    const order = body.orderId ? await openOrder(tx, body.orderId) : null;
    if (order && order.customerId !== to.id)
      throw refused('order.unknown', `${order.code} is not of ${to.name}.`, { field: 'orderId' });
    const known = recording.anew?.facts['code'];
    const code = typeof known === 'string' ? known : await nextOfYear(tx, dispatch, 'D', at);
    await tx
      .insert(dispatch)
      .values({ id: body.dispatchId, code, customerId: to.id, note: body.note, by: entry.by, at, seq });
    const { lots, count, runs } = await moveJars(
      recording,
      {
        jars: body.jars,
        to: { kind: 'customer', customerId: to.id, dispatchId: body.dispatchId },
        note: body.note,
      },
      { from: 'house', released: true },
    );
    if (order) await tx.update(customerOrder).set({ state: 'sent' }).where(eq(customerOrder.id, order.id));
    return { facts: { code, count, customer: to.name, runs, ...(order ? { order: order.code } : {}) }, lots };
  },
  line: ({ entry, facts }) => ({
    what: `Sent to ${String(facts['customer'])}`,
    words: [String(facts['code']), facts['order'] && `order ${String(facts['order'])}`, entry.body.note]
      .filter(Boolean)
      .join(' · '),
    figure: `${String(facts['count'])} jars`,
  }),
});

export const jarsLeft = kind('jars.out', {
  who: 'maker',
  words: 'Jars out',
  does: 'jars sold at a market, given away, eaten, broken, opened or thrown out; what people eat is released first',
  correct: 'ledger',
  rulesBefore: true,
  record: async (recording) => {
    const { jars, how, note } = recording.body;
    const eaten = how === 'market' || how === 'given' || how === 'staff';
    const { lots, count } = await moveJars(
      recording,
      { jars, to: { kind: 'gone', how }, note },
      { from: 'house', ...(eaten ? { released: true as const } : {}) },
    );
    return { facts: { count }, lots };
  },
  line: ({ entry, facts }) => ({
    what: `Jars ${GONE_WORDS[entry.body.how]}`,
    words: entry.body.note,
    figure: `${String(facts['count'])} jars`,
  }),
});

export const jarsCameBack = kind('jars.back', {
  who: 'maker',
  words: 'Jars back',
  does: 'jars back from who had them, with the reason; they stand in the house again',
  correct: 'ledger',
  record: async (recording) => {
    const { jars, roomId, reason } = recording.body;
    const name = await roomIn(recording, roomId);
    const { lots, count } = await moveJars(
      recording,
      { jars, to: { kind: 'house', roomId }, note: reason },
      { from: 'out' },
    );
    for (const { runLotId, first, last } of jars) {
      const run = await loadLot(recording.tx, runLotId, 'jars', ['run']);
      const grams = (await jarsOf(recording.tx, [runLotId])).reduce(
        (sum, one) => sum + one.netGrams * Math.max(0, Math.min(last, one.last) - Math.max(first, one.first) + 1),
        0,
      );
      if (grams > 0)
        await addMovements(recording, [{ from: { source: 'jarsBack' }, to: { lotId: run.id }, grams, field: 'jars' }]);
    }
    return { facts: { count, to: name }, lots };
  },
  line: ({ entry, facts }) => ({
    what: 'Jars back',
    words: `${entry.body.reason} · to ${String(facts['to'])}`,
    figure: `${String(facts['count'])} jars`,
  }),
});
