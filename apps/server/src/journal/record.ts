import type { Entry, EntryKind, Recorded } from '@clear-tally/contract';
import { CLOCK_SKEW_MS, CLOCKS_APART_MS, decideMoment, momentInWords, unfit } from '@clear-tally/core';
import { and, eq, getTableColumns, gt, inArray, or, type SQL, sql } from 'drizzle-orm';
import { anyOf, type Database, type Transaction } from '../db/database.js';
import { house } from '../db/schema/house.js';
import { journal } from '../db/schema/journal.js';
import { lot } from '../db/schema/ledger.js';
import { BatchQueue } from './batchQueue.js';
import { canonicalJson, CHAIN_START, chainHash } from './canonical.js';
import { asItHappened } from './asItHappened.js';
import type { Handler, HandlerResult } from './handler.js';
import { must, Refused, refused } from './refused.js';
import { kindOf } from './registry.js';

export interface Actor {
  readonly id: string;
  readonly role: 'owner' | 'maker' | 'inspector';
}

type JournalRow = typeof journal.$inferSelect;

/** One writer at a time: each journal row is chained to the one before. */
const WRITER_LOCK = 4_202_612;

export interface Request {
  readonly entries: readonly Entry[];
  readonly actor: Actor;
  readonly now: Date;
  /** Accepted once already: bounds of today are not asked. */
  readonly asWritten?: boolean;
}

/**
 * The one write path. Every entry is recorded in one transaction with its journal row, its facts and its
 * rows, or not at all. The same id again is answered with the first outcome.
 *
 * Writers queue for the end of the chain. Requests that wait together share a transaction; when one of them
 * is refused, that transaction is rolled back and each goes alone, so that nobody pays for another's mistake.
 * @throws {Refused} the first entry that a rule refuses, with its place in the list
 */
export function recordEntries(db: Database, request: Request): Promise<Recorded[]> {
  let queue = queues.get(db);
  if (!queue) queues.set(db, (queue = new BatchQueue((requests) => recordTogether(db, requests), RULES)));
  return queue.add(request);
}

/** Records what another book has accepted, in its order and of its moments: nothing of it is judged as if it came today. */
export async function recordAsWritten(db: Database, requests: readonly Request[]): Promise<void> {
  await recordTogether(
    db,
    requests.map((request) => ({ ...request, asWritten: true })),
  );
}

/** What recording would answer, with nothing recorded. @throws {Refused} as recording would */
export async function rehearse(db: Database, request: Request): Promise<Recorded[]> {
  const done = new Error('rehearsed');
  let answers: Recorded[][] = [];
  await db
    .transaction(async (tx) => {
      answers = await recordIn(tx, [request]);
      throw done;
    })
    .catch((error: unknown) => {
      if (error !== done) throw error;
    });
  return answers[0]!;
}

/** A refusal, or a value that a table refuses: all of them are one entry's. */
const RULES = {
  isOnesFault: (error: unknown) =>
    error instanceof Refused ||
    /^(22|23)/.test(
      String(((error as { cause?: { code?: string } }).cause ?? (error as { code?: string })).code ?? ''),
    ),
  mostWaiting: 200,
  tooMany: () =>
    refused(
      'server.busy',
      'Very many entries wait to be recorded at the moment. What you typed is kept: press again in a few seconds.',
    ),
};

const queues = new WeakMap<Database, BatchQueue<Request, Recorded[]>>();

const recordTogether = (db: Database, requests: readonly Request[]): Promise<Recorded[][]> =>
  db.transaction((tx) => recordIn(tx, requests));

async function recordIn(tx: Transaction, requests: readonly Request[]): Promise<Recorded[][]> {
  await tx.execute(sql`select pg_advisory_xact_lock(${WRITER_LOCK})`);
  // The end of the chain and what is known of these entries, in one question: the writers' lock is held meanwhile.
  // Tables that keep how a row was before an entry changed it are told which one that is.
  const ids = requests.flatMap(({ entries }) => entries.map((entry) => entry.id));
  const end = sql`(select coalesce(max(seq), 0) from journal)`;
  const known = await tx
    .select({
      ...getTableColumns(journal),
      told: sql<string>`set_config('clear_tally.seq', (${end} + 1)::text, true)`,
    })
    .from(journal)
    .where(or(eq(journal.entryId, anyOf(ids)), eq(journal.seq, end)));
  if (known.length === 0) await tx.execute(sql`select set_config('clear_tally.seq', '1', true)`);
  const last = known.reduce<JournalRow | undefined>((end, row) => (end && end.seq > row.seq ? end : row), undefined);
  const chain: Chain = { before: new Map(known.map((row) => [row.entryId, row])), last };
  const answers: Recorded[][] = [];
  for (const request of requests) answers.push(await recordInOrder(tx, request, chain));
  return answers;
}

/** Where the journal ends, while a transaction adds to it. */
interface Chain {
  readonly before: Map<string, JournalRow>;
  last: JournalRow | undefined;
}

async function recordInOrder(
  tx: Transaction,
  { entries, actor, now, asWritten = false }: Request,
  chain: Chain,
): Promise<Recorded[]> {
  const recorded: Recorded[] = [];
  for (const [index, entry] of entries.entries()) {
    try {
      const row = chain.before.get(entry.id);
      if (row) {
        recorded.push(repeat(row, entry));
        continue;
      }
      const link = await recordOne(tx, {
        entry,
        actor,
        now,
        asWritten,
        seq: (chain.last?.seq ?? 0) + 1,
        previousHash: chain.last?.hash ?? CHAIN_START,
      });
      chain.before.set(entry.id, link);
      chain.last = link;
      recorded.push({
        id: entry.id,
        seq: link.seq,
        kind: entry.kind,
        recordedAt: now.toISOString(),
        repeated: false,
        facts: JSON.parse(link.facts) as Record<string, unknown>,
      });
    } catch (error) {
      if (error instanceof Refused) error.entry ??= index;
      throw error;
    }
  }
  return recorded;
}

function repeat(row: JournalRow, entry: Entry): Recorded {
  if (row.entry !== canonicalJson(entry)) {
    throw refused(
      'entry.idReused',
      'An entry with this id is recorded already, with other content. Nothing was changed: look at it in the book, and correct it there.',
      { field: 'id' },
    );
  }
  return {
    id: entry.id,
    seq: row.seq,
    kind: row.kind,
    recordedAt: row.recordedAt.toISOString(),
    repeated: true,
    facts: JSON.parse(row.facts) as Record<string, unknown>,
  };
}

async function recordOne(
  tx: Transaction,
  input: { entry: Entry; actor: Actor; now: Date; asWritten: boolean; seq: number; previousHash: string },
): Promise<JournalRow> {
  const { entry, actor, now, asWritten, seq, previousHash } = input;
  mayRecord(entry, actor);
  const bad = asWritten ? null : unfit(entry);
  if (bad) throw refused(bad.code, `${bad.message}.`, { field: bad.path.replace(/^body\./, '') });
  const happenedAt = Date.parse(entry.happenedAt);
  const at = new Date(asWritten ? happenedAt : must(decideMoment({ happenedAt, now: now.getTime() })));
  // The journal row is written last, because its facts are known only then; what refers to it is checked at commit.
  // The compiler cannot see that a kind's description gets that kind's entry; the table of them is typed so.
  const of = kindOf(entry.kind);
  if (of.signed && !asWritten) refuseSignedOfThen(at, now);
  const record = (): Promise<HandlerResult> =>
    (of.record as Handler<EntryKind>)({
      tx,
      entry,
      body: entry.body,
      seq,
      at,
      recordedAt: now,
      isOwner: actor.role === 'owner',
    });
  const result = await (asWritten ? asItHappened(tx, { how: 'replay', seq }, record) : record());
  const lots = [...new Set(result.lots ?? [])];
  if (!asWritten && now.getTime() - at.getTime() > CLOCK_SKEW_MS && !of.reachesLater)
    await refuseBeforehand(tx, lots, at);
  const text = canonicalJson(entry);
  const facts = canonicalJson(result.facts ?? {});
  const hash = chainHash({ seq, previousHash, recordedAt: now, entry: text, facts });
  const row = {
    seq,
    entryId: entry.id,
    kind: entry.kind,
    happenedAt: at,
    recordedAt: now,
    by: entry.by,
    entry: text,
    facts,
    previousHash,
    hash,
  };
  await writeRow(tx, row, lots, result.writes);
  return row;
}

/**
 * The row, the lots it speaks of and what its kind writes beside it, in one question. Written out by hand: every entry comes this way, and putting the
 * same words together anew took longer than the database takes over them.
 */
async function writeRow(
  tx: Transaction,
  row: JournalRow,
  lots: readonly string[],
  beside: SQL | undefined,
): Promise<void> {
  const { seq, entryId, kind, happenedAt, recordedAt, by, entry, facts, previousHash, hash } = row;
  await tx.execute(sql`
    with written as (
      insert into journal (seq, entry_id, kind, happened_at, recorded_at, by, entry, facts, previous_hash, hash)
      values (${seq}, ${entryId}, ${kind}, ${happenedAt.toISOString()}, ${recordedAt.toISOString()}, ${by}, ${entry},
        ${facts}, ${previousHash}, ${hash})
      returning seq, set_config('clear_tally.seq', ${String(seq + 1)}, true)
    )${beside ? sql`, beside as (${beside})` : sql``}
    insert into entry_lot (lot_id, seq) select spoken.lot, written.seq
    from written, unnest(${sql.param([...lots])}::uuid[]) spoken (lot)`);
}

/** A signature is of the moment it is made: what it opens was not open before. */
function refuseSignedOfThen(at: Date, now: Date): void {
  if (now.getTime() - at.getTime() <= CLOCKS_APART_MS) return;
  throw refused(
    'time.signature',
    `The time given lies ${Math.round((now.getTime() - at.getTime()) / 60_000)} minutes back. A signature is of the moment it is made: sign it now, and look at the tablet’s clock.`,
    { field: 'happenedAt' },
  );
}

/** No work on a thing before the thing was there. */
async function refuseBeforehand(tx: Transaction, lotIds: readonly string[], at: Date): Promise<void> {
  if (lotIds.length === 0) return;
  const [later] = await tx
    .select({ code: lot.code, at: lot.at })
    .from(lot)
    .where(and(inArray(lot.id, [...lotIds]), gt(lot.at, new Date(at.getTime() + CLOCK_SKEW_MS))))
    .limit(1);
  if (!later) return;
  const [of] = await tx.select({ timeZone: house.timeZone }).from(house);
  throw refused(
    'lot.notYet',
    `${later.code} began on ${momentInWords(later.at.getTime(), of!.timeZone)}, after the time given. Look at the time, and at the tablet’s clock.`,
    { field: 'happenedAt' },
  );
}

function mayRecord(entry: Entry, actor: Actor): void {
  if (entry.by !== actor.id)
    throw refused(
      'who.otherPerson',
      'This entry names another person than the one signed in. Everybody signs what they did themselves.',
      { field: 'by' },
    );
  if (actor.role === 'inspector')
    throw refused('who.notAllowed', 'An inspector’s sign-in reads everything and records nothing.');
  if (actor.role !== 'owner' && kindOf(entry.kind).who === 'owner') {
    throw refused(
      'who.notAllowed',
      entry.kind === 'hold.lift'
        ? 'A hold is lifted by a reviewer. Ask the owner to look at it.'
        : 'Only an owner changes this.',
    );
  }
}
