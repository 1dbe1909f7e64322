import { entrySchema, unlike } from '@clear-tally/contract';
import { decideMoment } from '@clear-tally/core';
import { eq, inArray, sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { correction } from '../../db/schema/correcting.js';
import { liveMovement, lot } from '../../db/schema/ledger.js';
import { canonicalJson } from '../../journal/canonical.js';
import type { HandlerResult } from '../../journal/handler.js';
import { must, refused } from '../../journal/refused.js';
import { savepoint } from '../../journal/savepoint.js';
import { holdWhatCameOfHeld, wayOf } from './heldSources.js';
import { loadWritten, type Written } from '../../lots/written.js';
import { restingOn } from './rests.js';
import { Writer, setWriter, type Correcting, type Instead } from './writer.js';
import { leaveLots, refuseDangling, refuseShort, refuseTwice } from './standsInTheWay.js';

export interface PutRight {
  /** What the entry decided, as it should have been. */
  readonly facts: Record<string, unknown>;
  /** Lots it speaks of now. */
  readonly lots: readonly string[];
  /** Words that do not hold any more: a second person's, a reviewer's, "closed". */
  readonly fell: readonly string[];
  /** Lots that never were. */
  readonly undone: readonly string[];
  /** How many entries after it were written anew. */
  readonly anew: number;
}

/**
 * Puts an entry right, or takes it back: its rows and those of what rests on it are taken back, the newest first; then
 * the right one and the others are written anew, in their order, as they happened. What cannot have been is refused, with
 * what stands in the way.
 * @param instead what it should have said; null: it never happened
 * @throws {Refused} the right body is none, or something recorded since cannot have been with it
 */
export async function putRight(hand: Correcting, of: Written, instead: unknown): Promise<PutRight> {
  const { tx, at } = hand;
  const right = instead === null ? null : readInstead(of, instead as Omit<Instead, 'kind'>, at);
  await refuseUnkept(tx, of);
  const lots = [...(await lotsOf(tx, of.seq)), ...idsIn(right?.body)];
  const resting = await restingOn(tx, {
    of,
    never: right === null,
    lots,
    vessels: [...idsIn(of.entry.body), ...idsIn(right?.body)],
  });
  await tx.execute(sql`set constraints all deferred`);
  for (;;) {
    try {
      return await savepoint(tx, (inner) => writeAnew({ ...hand, tx: inner }, of, right, resting));
    } catch (error) {
      if (!(error instanceof Overwritten)) throw error;
      // The right one writes what others wrote after it: theirs is written after it again.
      resting.push(...(await loadWritten(tx, error.by)));
      resting.sort((one, other) => one.seq - other.seq);
    }
  }
}

/** Rows were written over that later entries wrote. */
class Overwritten extends Error {
  constructor(readonly by: readonly number[]) {
    super('written over');
  }
}

async function writeAnew(
  hand: Correcting,
  of: Written,
  right: Instead | null,
  resting: readonly Written[],
): Promise<PutRight> {
  const { tx, seq, at } = hand;
  const all = [of, ...resting];
  const aside: Map<string, { code: string; vesselId: string | null }> = new Map();
  const ways = new Set(
    (
      await tx
        .select({ from: liveMovement.fromLot, to: liveMovement.toLot })
        .from(liveMovement)
        .where(
          inArray(
            liveMovement.seq,
            all.map((one) => one.seq),
          ),
        )
    ).map(({ from, to }) => wayOf(from, to)),
  );
  for (const one of [...all].reverse()) {
    for (const made of await tx
      .select({ id: lot.id, code: lot.code, vesselId: lot.vesselId })
      .from(lot)
      .where(eq(lot.seq, one.seq)))
      aside.set(made.id, made);
    await tx.execute(sql`select take_back(${one.seq}, ${one.entry.id}, ${seq}, ${at.toISOString()})`);
  }
  const writer = new Writer(hand, aside);
  const result: HandlerResult = right ? await writer.right(of, right) : {};
  const over = await writtenOver(tx, of.seq);
  if (over.length > 0) throw new Overwritten(over);
  for (const one of resting) await writer.again(one);
  const undone = await leaveLots(tx, seq, of);
  await setWriter(tx, seq);
  await refuseShort(tx, seq);
  await holdWhatCameOfHeld(hand, ways);
  await refuseTwice(tx);
  await refuseDangling(tx);
  await tx.insert(correction).values({ seq, rootEntryId: of.entry.id, right });
  return {
    facts: result.facts ?? {},
    lots: [...new Set(result.lots ?? [])],
    fell: writer.fell,
    undone,
    anew: resting.length,
  };
}

/** Later entries that wrote or changed the rows which this one has just changed. */
async function writtenOver(tx: Transaction, seq: number): Promise<number[]> {
  const found = await rows<{ seq: string }>(
    tx,
    sql`
    with own as (select * from row_change where seq = ${seq})
    select distinct c.seq from own join row_change c on c.relation = own.relation and c.key = own.key and c.seq > ${seq}
    union select distinct coalesce(was ->> 'seq', was ->> 'entry_seq')::bigint from own where coalesce(was ->> 'seq', was ->> 'entry_seq')::bigint > ${seq}`,
  );
  return found.map((row) => Number(row.seq));
}

/** Every id a body names. */
function idsIn(body: unknown): string[] {
  return [
    ...new Set(
      JSON.stringify(body ?? null).match(/[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g) ?? [],
    ),
  ];
}

/** The right body is asked for as the original's was. Errors are named by their place in it. */
function readInstead(of: Written, instead: { body: unknown; happenedAt?: string }, now: Date): Instead {
  const given = { ...of.entry, happenedAt: instead.happenedAt ?? of.entry.happenedAt, body: instead.body };
  const parsed = entrySchema.safeParse(given);
  if (!parsed.success) {
    const { detail, field } = unlike(parsed.error);
    throw refused('shape.invalid', detail, { field: `instead.body${field ? `.${field}` : ''}` });
  }
  const { kind, body, happenedAt } = parsed.data;
  if (
    canonicalJson(body) === canonicalJson(of.entry.body) &&
    Date.parse(happenedAt) === Date.parse(of.entry.happenedAt) &&
    !of.never
  ) {
    throw refused('correction.nothingChanged', 'This is what the line says already. Nothing was changed.', {
      field: 'instead',
    });
  }
  must(decideMoment({ happenedAt: Date.parse(happenedAt), now: now.getTime() }));
  return { kind, body, happenedAt };
}

async function lotsOf(tx: Transaction, seq: number): Promise<string[]> {
  const found = await rows<{ id: string }>(
    tx,
    sql`
    select lot_id as id from entry_lot where seq = ${seq} union select id from lot where seq = ${seq}
    union select from_lot from movement where seq = ${seq} and from_lot is not null union select to_lot from movement where seq = ${seq} and to_lot is not null`,
  );
  return found.map(({ id }) => id);
}

/** Of what an entry changed before the house kept how it was, nobody knows how it was. */
async function refuseUnkept(tx: Transaction, { seq, entry }: Written): Promise<void> {
  const [row] = await rows<{ from: string }>(tx, sql`select from_seq as "from" from changes_kept`);
  if (seq > Number(row?.from ?? 0)) return;
  throw refused(
    'correction.notThisKind',
    `This line (${entry.kind}) was written by an earlier version, which did not keep how things stood before it. Count what stands there now, and write what is right with its reason.`,
    { field: 'corrects' },
  );
}
