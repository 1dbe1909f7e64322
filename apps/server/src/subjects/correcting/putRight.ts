import { type Entry, type EntryKind, entrySchema, unlike } from '@clear-tally/contract';
import { CLOCK_SKEW_MS, decideMoment, formatGrams } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { anyOf, rows, type Transaction } from '../../db/database.js';
import { correction } from '../../db/schema/correcting.js';
import { house } from '../../db/schema/house.js';
import { lot } from '../../db/schema/ledger.js';
import { asItHappened, Falls, type Lenience } from '../../journal/asItHappened.js';
import { canonicalJson } from '../../journal/canonical.js';
import type { Anew, Handler, HandlerResult, Recording } from '../../journal/handler.js';
import { must, refused, Refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { savepoint } from '../../journal/savepoint.js';
import { balance, loadLot } from '../../lots/lots.js';
import { holdWhatCameOfHeld, wayOf } from './heldSources.js';
import { loadWritten, restingOn, type Written } from './rests.js';

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

type Correcting = Recording<'entry.correct'>;

interface Instead {
  readonly kind: EntryKind;
  readonly body: Entry['body'];
  readonly happenedAt: string;
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
      await rows<{ from: string | null; to: string | null }>(
        tx,
        sql`
    select from_lot as from, to_lot as to from live_movement where seq = any(${sql.param(all.map((one) => one.seq))}::bigint[])`,
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

const setWriter = (tx: Transaction, seq: number) =>
  tx.execute(sql`select set_config('clear_tally.seq', ${String(seq)}, true)`);

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

/** Writes entries anew under one correction. */
class Writer {
  readonly fell: string[] = [];

  constructor(
    private readonly hand: Correcting,
    private readonly aside: Anew['aside'],
  ) {}

  /** The right one is asked what its kind is asked, but for holds: what is held today was taken then. */
  async right(of: Written, right: Instead): Promise<HandlerResult> {
    try {
      const result = await this.write(of, right, 'holds');
      await refuseBefore(this.hand.tx, result.lots ?? [], new Date(right.happenedAt));
      return result;
    } catch (error) {
      if (error instanceof Refused)
        throw new Refused({
          ...error.refusal,
          field: `instead.body${error.refusal.field ? `.${error.refusal.field}` : ''}`,
        });
      throw error;
    }
  }

  /** What rests on it was done as it was done. */
  async again(one: Written): Promise<void> {
    try {
      await this.write(one, one.entry, 'all');
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Falls)) throw error;
      const said = this.named(error.message);
      if (!(error instanceof Falls) && !kindOf(one.entry.kind).falls) throw await inTheWay(this.hand.tx, one, said);
      this.fell.push(`${kindOf(one.entry.kind).words}: ${said}`);
    }
  }

  /** Lots laid aside have no code meanwhile: words name them by the one they had. */
  private named(words: string): string {
    return [...this.aside].reduce((text, [id, { code }]) => text.replaceAll(`~${id}`, code), words);
  }

  private async write(
    of: Written,
    { kind, body, happenedAt }: Pick<Entry, 'kind' | 'body' | 'happenedAt'>,
    how: Lenience,
  ): Promise<HandlerResult> {
    const { tx, entry, seq } = this.hand;
    await setWriter(tx, of.seq);
    const recording = {
      seq: of.seq,
      at: new Date(happenedAt),
      isOwner: of.role === 'owner' || this.hand.isOwner,
      entry: { ...of.entry, kind, body, happenedAt } as Entry,
      body,
      anew: { entryId: entry.id, seq, facts: of.facts, aside: this.aside },
    };
    const handler = kindOf(kind).record as Handler<EntryKind>;
    // A handler may have written before it refused or let its word fall: nothing of it stays.
    return savepoint(tx, async (inner) => {
      const result = await asItHappened(inner, { how, seq: of.seq }, () =>
        handler({ ...recording, tx: inner } as unknown as Recording<EntryKind>),
      );
      if (result.writes) await inner.execute(result.writes);
      return result;
    });
  }
}

async function inTheWay(tx: Transaction, one: Written, said: string): Promise<Refused> {
  const [what, when] = [kindOf(one.entry.kind).words, await houseMoment(tx, one.entry.happenedAt)];
  return refused(
    'correction.standsInTheWay',
    `“${what}” of ${when} rests on this line, and cannot have been with it: ${said} Put that right first.`,
    {
      field: 'corrects',
      facts: { entryId: one.entry.id, kind: one.entry.kind, what, when },
    },
  );
}

/** `23 Nov 11:25`, by the house's clock. */
async function houseMoment(tx: Transaction, at: string | Date): Promise<string> {
  const [of] = await tx.select({ timeZone: house.timeZone }).from(house);
  return new Intl.DateTimeFormat('en-GB', {
    timeZone: of?.timeZone ?? 'UTC',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
    .format(new Date(at))
    .replace(',', '');
}

async function refuseBefore(tx: Transaction, lotIds: readonly string[], at: Date): Promise<void> {
  if (lotIds.length === 0) return;
  const [early] = await rows<{ code: string }>(
    tx,
    sql`select code from lot where id = ${anyOf(lotIds)} and at > ${new Date(at.getTime() + CLOCK_SKEW_MS).toISOString()} limit 1`,
  );
  if (early)
    throw refused('lot.notYet', `${early.code} began after the time given. Look at the time.`, { field: 'happenedAt' });
}

/** What stays laid aside never was: nothing may stand on it that somebody still says. */
async function leaveLots(tx: Transaction, seq: number, of: Written): Promise<string[]> {
  const left = await rows<{ code: string }>(tx, sql`select leave_lots(${seq}) as code`);
  const standing = await rows<{ code: string; kind: EntryKind; at: Date; id: string }>(
    tx,
    sql`
    select l.code, j.kind, j.happened_at as at, j.entry_id as id from lot l join entry_lot e on e.lot_id = l.id join journal j on j.seq = e.seq
    left join lateral (select seq, "right" from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1) c on true
    where l.undone_seq = ${seq} and j.seq <> ${of.seq} and j.kind not in ('entry.correct', 'label.print', 'hold.byRule', 'hold.anew')
      and (c.seq is null or c."right" is not null) order by j.seq limit 5`,
  );
  if (standing.length > 0) {
    const said: string[] = [];
    // One after the other: inside a transaction there is one connection.
    for (const { kind, at } of standing) said.push(`${kindOf(kind).words} of ${await houseMoment(tx, at)}`);
    const what = said.join(', ');
    const [first] = standing;
    throw refused(
      'correction.standsInTheWay',
      `${standing[0]!.code} would never have been, and this stands in its book: ${what}. Put those right first: say where they belong, or that they never happened.`,
      {
        field: 'corrects',
        facts: {
          entryId: first!.id,
          kind: first!.kind,
          what: kindOf(first!.kind).words,
          when: await houseMoment(tx, first!.at),
        },
      },
    );
  }
  return left.map(({ code }) => code);
}

/** The ledger has to have held enough at every moment since. */
async function refuseShort(tx: Transaction, seq: number): Promise<void> {
  const touched = await rows<{ id: string; at: Date }>(
    tx,
    sql`
    select lot as id, min(at) as at from (
      select from_lot as lot, at from movement where id >= ${seq * 1000} and id < ${(seq + 1) * 1000}
      union all select to_lot, at from movement where id >= ${seq * 1000} and id < ${(seq + 1) * 1000}) t
    where lot is not null group by 1`,
  );
  for (const { id, at } of touched) {
    const found = await loadLot(tx, id, 'code');
    const held = await balance(tx, found, new Date(at));
    const least = Math.min(held.atGrams, held.leastLaterGrams);
    if (held.metered && least < -Math.max(held.toleranceGrams, 20)) {
      throw refused(
        'correction.standsInTheWay',
        `With this, more would have left ${found.code} than ever was in it: ${formatGrams(-least)} is short. Look at what was taken from it first.`,
        { field: 'corrects', facts: { lot: found.code, shortGrams: -least } },
      );
    }
  }
}

/** A vessel that would not have been empty, and was filled anew since. */
async function refuseTwice(tx: Transaction): Promise<void> {
  const [twice] = await rows<{ tag: string; code: string; id: string; at: Date; kind: EntryKind }>(
    tx,
    sql`
    select v.tag, l.code, j.entry_id as id, j.happened_at as at, j.kind from lot l
    join vessel v on v.id = l.vessel_id join journal j on j.seq = l.seq
    where l.kind = 'fill' and l.closed_at is null
      and exists (select 1 from lot o where o.vessel_id = l.vessel_id and o.kind = 'fill' and o.closed_at is null and o.seq < l.seq)
    limit 1`,
  );
  if (!twice) return;
  const [what, when] = [kindOf(twice.kind).words, await houseMoment(tx, twice.at)];
  throw refused(
    'correction.standsInTheWay',
    `${twice.tag} would not have been empty, and ${twice.code} was filled into it since (${when}). Put that right first: say where it was filled, or that it never happened.`,
    { field: 'corrects', facts: { entryId: twice.id, kind: twice.kind, what, when } },
  );
}

/** What points at a room, a vessel or a material that would never have been. */
async function refuseDangling(tx: Transaction): Promise<void> {
  const waiting = await rows<{ name: string; of: string }>(
    tx,
    sql`
    select quote_ident(conname) as name, conrelid::regclass::text as of from pg_constraint
    where contype in ('f', 'x') and condeferrable and not condeferred`,
  );
  try {
    await savepoint(tx, (inner) =>
      inner.execute(sql.raw(`set constraints ${waiting.map(({ name }) => name).join(', ')} immediate`)),
    );
  } catch (error) {
    const cause = ((error as { cause?: unknown }).cause ?? error) as { code?: string; constraint?: string };
    if (cause.code !== '23503') throw error;
    const what = waiting.find(({ name }) => name === cause.constraint)?.of ?? 'the book';
    throw refused(
      'correction.standsInTheWay',
      `Something that was recorded since stands on it (${what.replace('_', ' ')}). Put that right first: say where it belongs, or that it never happened.`,
      { field: 'corrects' },
    );
  }
}
