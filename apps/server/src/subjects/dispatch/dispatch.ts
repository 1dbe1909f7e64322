import type { BodyOf } from '@clear-tally/contract';
import { countOf, GONE_WORDS, JAR_HEAT_WORDS, type JarAt, jarCode, type Serials, type Sink } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { rows } from '../../db/database.js';
import { room } from '../../db/schema/house.js';
import { customer, customerOrder, dispatch, jarMove } from '../../db/schema/jars.js';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { addMovements, balance, loadLot, type LotRow } from '../../lots/lots.js';
import { heatOf } from '../../lots/heat.js';
import { openSince, whyNotOut } from '../../lots/releasing.js';
import { type JarsOfRun, jarsOf, loadRun } from '../../lots/runs.js';
import { openOrder } from './orders.js';

type Jars = BodyOf<'jars.dispatch'>['jars'];

/** How the mass of jars leaves the ledger, by where they go. */
const SINK_OF: Readonly<Record<keyof typeof GONE_WORDS, Sink | null>> = {
  market: 'sold',
  given: 'given',
  staff: 'staff',
  broken: 'broken',
  opened: 'sample',
  thrownOut: 'thrownOut',
  // What tops up its siblings stays in the run.
  levelling: null,
};

interface Leaving {
  readonly jars: Jars;
  readonly to: JarAt;
  readonly note: string | null;
}

/** Jars that leave for good or for a while; each must be in the house. */
export async function jarsGone(
  recording: InHand,
  going: Leaving,
): Promise<{ lots: string[]; count: number; runs: string[] }> {
  return await moveJars(recording, going, { from: 'house' });
}

/** What is asked of the jars before they move. */
interface Asked {
  /** `house`: they must stand in the house; `out`: somebody must have them. */
  readonly from: 'house' | 'out';
  /** They leave for people to eat: released, and nothing held along the way. */
  readonly released?: true;
}

async function moveJars(
  recording: InHand,
  { jars, to, note }: Leaving,
  asked: Asked,
): Promise<{ lots: string[]; count: number; runs: string[] }> {
  const { tx, entry, seq, at } = recording;
  const runs = new Map<string, LotRow>();
  for (const { runLotId } of jars)
    if (!runs.has(runLotId)) runs.set(runLotId, await loadLot(tx, runLotId, 'jars', ['run']));
  const standing = await jarsOf(tx, [...runs.keys()], at);
  for (const run of runs.values()) {
    if (at < run.at)
      throw refused('lot.notYet', `${run.code} was packed after the time given. Look at the time.`, {
        field: 'happenedAt',
      });
    const why = asked.released && !happened(tx) ? await whyNotOut(tx, await loadRun(tx, run)) : null;
    if (why) throw refused(why.code, `${why.words} Nothing of it leaves.`, { field: 'jars' });
    const [since] = asked.released && !happened(tx) ? await openSince(tx, await loadRun(tx, run), at) : [];
    if (since)
      throw refused(
        'release.open',
        `${run.code} is released, and since then stands open: ${since.words}: ${since.now}. Nothing of it leaves.`,
        { field: 'jars', facts: { open: [since.key] } },
      );
  }
  let [number, count] = [1, 0];
  for (const part of jars) {
    const run = runs.get(part.runLotId)!;
    if (asked.released && !happened(tx)) refuseBack(run, standing, part);
    if (asked.released && !happened(tx)) refuseRetained(run, standing, part);
    if (asked.released && !happened(tx)) await refuseUnheated(tx, run, part);
    const parts = inTheWay(run, standing, part, asked.from);
    await tx.insert(jarMove).values({
      entryId: entry.id,
      number,
      runLotId: run.id,
      firstSerial: part.first,
      lastSerial: part.last,
      whereKind: to.kind,
      roomId: to.kind === 'house' ? to.roomId : null,
      customerId: to.kind === 'customer' ? to.customerId : null,
      dispatchId: to.kind === 'customer' ? to.dispatchId : null,
      how: to.kind === 'gone' ? to.how : asked.from === 'out' ? 'back' : null,
      note,
      at,
      seq,
    });
    number += 1;
    count += countOf(part);
    await weigh(recording, run, parts, to);
  }
  return { lots: [...runs.keys()], count, runs: [...runs.values()].map(({ code }) => code) };
}

/** A jar that came back was out of the house's hands: nobody knows how it stood. It is not sold again. */
function refuseBack(run: LotRow, standing: readonly JarsOfRun[], { first, last }: Serials): void {
  for (const { runLotId, back } of standing) {
    const came = runLotId === run.id ? back.find((one) => one.first <= last && one.last >= first) : undefined;
    if (!came) continue;
    const jar = jarCode(run.code, Math.max(first, came.first)).text;
    throw refused('jar.cameBack', `${jar} came back from who had it: it is not sold again. Open it, or throw it out.`, {
      field: 'jars',
      facts: { jar },
    });
  }
}

/** What is kept to be tasted is not sold: it is the evidence of the shelf life. */
function refuseRetained(run: LotRow, standing: readonly JarsOfRun[], { first, last }: Serials): void {
  const kept = standing
    .filter(({ runLotId }) => runLotId === run.id)
    .flatMap(({ retained }) => retained)
    .find((one) => one.first <= last && one.last >= first);
  if (!kept) return;
  const jar = jarCode(run.code, Math.max(first, kept.first)).text;
  throw refused('jar.retained', `${jar} is kept to be tasted over its shelf life. Take another one.`, {
    field: 'jars',
    facts: { jar },
  });
}

/** Of a run that is kept ambient only jars leave whose own load met its process. */
async function refuseUnheated(tx: InHand['tx'], run: LotRow, { first, last }: Serials): Promise<void> {
  if ((await loadRun(tx, run)).storage !== 'ambient') return;
  const held = (await heatOf(tx, { lotId: run.id })).jars.find(
    (one) => one.heat !== 'met' && one.first <= last && one.last >= first,
  );
  if (!held) return;
  const jar = jarCode(run.code, Math.max(first, held.first)).text;
  throw refused('heat.jarHeld', `${jar}: ${JAR_HEAT_WORDS[held.heat]}. It does not leave.`, {
    field: 'jars',
    facts: { jar },
  });
}

/** The stretches of these serials by size, each where it must be. @throws {Refused} unknown, or elsewhere */
function inTheWay(
  run: LotRow,
  standing: readonly JarsOfRun[],
  { first, last }: Serials,
  from: Asked['from'],
): { netGrams: number; count: number }[] {
  const ranges = standing.filter((one) => one.runLotId === run.id && one.first <= last && one.last >= first);
  const known = ranges.reduce((sum, one) => sum + Math.min(last, one.last) - Math.max(first, one.first) + 1, 0);
  if (known < last - first + 1)
    throw refused('jar.unknown', `${run.code} has no jar ${known === 0 ? first : last}. Read its label again.`, {
      field: 'jars',
      facts: { run: run.code, first, last },
    });
  return ranges.map(({ segments, netGrams, ...one }) => {
    for (const segment of segments) {
      if (segment.first > last || segment.last < first) continue;
      if ((segment.where.kind === 'house') === (from === 'house') && segment.where.kind !== 'gone') continue;
      const jar = jarCode(run.code, Math.max(first, segment.first)).text;
      throw refused(
        from === 'house' ? 'jar.notHere' : 'jar.moved',
        from === 'house'
          ? `${jar} is not in the house: ${segment.where.kind === 'gone' ? GONE_WORDS[segment.where.how] : 'a customer has it'}.`
          : `${jar} is with nobody outside: ${segment.where.kind === 'gone' ? GONE_WORDS[segment.where.how] : 'it stands in the house'}.`,
        { field: 'jars', facts: { jar } },
      );
    }
    return { netGrams, count: Math.min(last, one.last) - Math.max(first, one.first) + 1 };
  });
}

/** Their mass in the ledger; what the book has left of a run is all that can leave it. */
async function weigh(
  recording: InHand,
  run: LotRow,
  parts: readonly { netGrams: number; count: number }[],
  to: JarAt,
): Promise<void> {
  const grams = parts.reduce((sum, { netGrams, count }) => sum + netGrams * count, 0);
  // What tops up its siblings stays in the run.
  if (to.kind === 'house') return;
  const { atGrams, leastLaterGrams } = await balance(recording.tx, run, recording.at);
  const leaves = Math.min(grams, atGrams, leastLaterGrams);
  if (leaves < 0.001) return;
  const sink = to.kind === 'customer' ? 'sold' : SINK_OF[to.how];
  if (sink) await addMovements(recording, [{ from: { lot: run }, to: { sink }, grams: leaves, field: 'jars' }]);
}

async function customerIn(recording: InHand, id: string): Promise<typeof customer.$inferSelect> {
  const [of] = await recording.tx.select().from(customer).where(eq(customer.id, id));
  if (!of)
    throw refused('customer.unknown', 'This customer is not known in this house. Add who gets the jars first.', {
      field: 'customerId',
    });
  return of;
}

async function roomIn(recording: InHand, id: string): Promise<string> {
  const [of] = await recording.tx.select({ name: room.name }).from(room).where(eq(room.id, id));
  if (!of) throw refused('resource.unknown', 'There is no such place in this house.', { field: 'roomId' });
  return of.name;
}

export const customerAdded = kind('customer.add', {
  who: 'maker',
  words: 'Customer',
  does: 'who gets jars: name, kind, address, and who is called when something is wrong',
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
    const code = typeof known === 'string' ? known : await nextNote(tx, at);
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

/** `D26-0007`: the year, and the number of the note in it. */
async function nextNote(tx: InHand['tx'], at: Date): Promise<string> {
  const head = `D${String(at.getUTCFullYear()).slice(2)}-`;
  const [row] = await rows<{ last: string | null }>(
    tx,
    sql`select max(substr(code, ${head.length + 1})) as last from dispatch where code like ${`${head}%`}`,
  );
  return `${head}${String(Number(row?.last ?? 0) + 1).padStart(4, '0')}`;
}

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
