import { decideDraw, tallyTolerance } from '@clear-tally/core';
import { and, eq, getTableColumns, gte, isNull, lt, max, type SQL, sql } from 'drizzle-orm';
import { type Reader, rows, type Transaction } from '../db/database.js';
import { toGrams, toMilligrams } from '../db/schema/columns.js';
import { hold, lot, type LOT_KINDS, movement } from '../db/schema/ledger.js';
import { heldPasses, placeOf } from '../journal/asItHappened.js';
import type { InHand } from '../journal/handler.js';
import { happened } from '../journal/asItHappened.js';
import { must, refused } from '../journal/refused.js';

export type LotRow = typeof lot.$inferSelect;

export type LotKind = (typeof LOT_KINDS)[number];

const KIND_WORDS: Record<LotKind, string> = {
  supply: 'a supply lot',
  batch: 'a batch',
  preparation: 'a preparation',
  fill: 'a filled vessel',
  run: 'a packing run',
};

/** The lot, of one of the kinds that fit, or a refusal at the field it was named in. */
export const loadLot = (tx: Reader, id: string, field: string, kinds?: readonly LotKind[]): Promise<LotRow> =>
  loadLotWith(tx, id, field, kinds, {});

/** The lot, and what else is asked about it in the same question. @throws {Refused} as `loadLot` does */
export async function loadLotWith<More extends Record<string, SQL>>(
  tx: Reader,
  id: string,
  field: string,
  kinds: readonly LotKind[] | undefined,
  more: More,
): Promise<LotRow & Record<keyof More, unknown>> {
  const asked = await tx
    .select({ ...getTableColumns(lot), ...more })
    .from(lot)
    .where(eq(lot.id, id));
  const found = asked[0] as (LotRow & Record<keyof More, unknown>) | undefined;
  if (!found)
    throw refused('lot.unknown', `No lot ${id} is known in this house. Choose it from the list, or scan its code.`, {
      field,
    });
  if (found.undoneSeq !== null && field !== 'code')
    throw refused('lot.unknown', `${found.code} never was: the entry that made it was taken back.`, { field });
  if (kinds && !kinds.includes(found.kind)) {
    throw refused(
      'lot.wrongKind',
      `${found.code} is ${KIND_WORDS[found.kind]}; ${kinds.map((kind) => KIND_WORDS[kind]).join(' or ')} is accepted here.`,
      { field },
    );
  }
  const place = placeOf(tx);
  return place !== null && found.closedAt !== null && (await closedAfter(tx, found.id, place))
    ? { ...found, closedAt: null }
    : found;
}

/** Whether a lot was still open when an entry was recorded that is written anew today. */
async function closedAfter(tx: Reader, lotId: string, place: number): Promise<boolean> {
  const [row] = await rows<{ seq: string }>(
    tx,
    sql`
    select seq from row_change where relation = 'lot' and key = jsonb_build_object('id', ${lotId}::text)
      and was ->> 'closed_at' is null and seq > ${place} limit 1`,
  );
  return row !== undefined;
}

export async function openHold(tx: Reader, lotId: string): Promise<string | null> {
  const held = await tx
    .select({ reason: hold.reason })
    .from(hold)
    .where(and(eq(hold.lotId, lotId), isNull(hold.liftedAt)))
    .orderBy(hold.placedAt);
  return held.length > 0 ? [...new Set(held.map(({ reason }) => reason))].join('; ') : null;
}

export async function refuseHeld(tx: Reader, found: LotRow, field: string): Promise<void> {
  if (heldPasses(tx)) return;
  const reason = await openHold(tx, found.id);
  if (reason)
    throw refused(
      'lot.onHold',
      `${found.code} is on hold: ${reason}. Nothing is taken from it until the hold is lifted.`,
      { field },
    );
}

export function refuseClosed(found: LotRow, field: string): void {
  if (found.closedAt)
    throw refused(
      'lot.closed',
      `${found.code} is emptied and closed. Nothing more can be recorded into or out of it.`,
      { field },
    );
}

export type NewLot = Omit<typeof lot.$inferInsert, 'codeKey' | 'seq'>;

export const addLot = (recording: InHand, row: NewLot): Promise<void> => addLots(recording, [row]);

/** Many lots of one entry at once. */
export async function addLots({ tx, seq, anew }: InHand, added: readonly NewLot[]): Promise<void> {
  const made = added.map((row) => ({ ...row, codeKey: codeKey(row.code), seq }));
  const fresh = made.filter(({ id }) => !anew?.aside.has(id));
  if (fresh.length > 0) await tx.insert(lot).values(fresh);
  for (const row of made) if (anew?.aside.has(row.id)) await putLot(tx, row, anew.seq);
}

/** A lot laid aside by a correction, written as it should have been. */
async function putLot(tx: Transaction, row: typeof lot.$inferInsert, bySeq: number): Promise<void> {
  const columns = getTableColumns(lot);
  const inDatabase = Object.entries(row).map(([name, value]) => [
    snake(columns[name as keyof typeof columns].name),
    value,
  ]);
  // A column that is left out has its default: of a lot these are the state it came in, and that it is counted down.
  const anew = { state: 'asReceived', metered: true, ...(Object.fromEntries(inDatabase) as object) };
  await tx.execute(sql`select put_lot(${JSON.stringify(anew)}::jsonb, ${bySeq})`);
}

const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/**
 * The code of a new lot; one that is put right keeps the code it has, on whatever labels that stands, unless the code says
 * what was wrong: another vessel, another supplier.
 */
export function codeFor({ anew }: InHand, lotId: string, issued: string, vesselId: string | null = null): string {
  const aside = anew?.aside.get(lotId);
  if (!aside) return issued;
  if (vesselId !== null) return aside.vesselId === vesselId ? aside.code : issued;
  const head = (code: string): string => code.replace(/(\d+|[A-Z])$/, '');
  return head(aside.code) === head(issued) ? aside.code : issued;
}

/** What came into new lots, and what of it went back at the door: they held nothing before, so nothing has to be asked. */
export async function addArrivals(
  recording: InHand,
  arrivals: readonly { lotId: string; grams: number; returnedGrams: number }[],
): Promise<void> {
  const { seq, at, entry, tx } = recording;
  const row = { seq, rootEntryId: entry.id, kind: 'supply.receive', at };
  const moves = arrivals.flatMap(({ lotId, grams, returnedGrams }) => [
    { ...row, source: 'received' as const, toLot: lotId, milligrams: toMilligrams(grams) },
    ...(returnedGrams > 0
      ? [{ ...row, fromLot: lotId, sink: 'returned' as const, milligrams: toMilligrams(returnedGrams) }]
      : []),
  ]);
  const first = await nextMovement(recording);
  await tx.insert(movement).values(moves.map((move, index) => ({ ...move, id: first + index })));
}

/** A code as it is looked up: no separators, capitals. */
export const codeKey = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/**
 * The first of a row of codes that nobody has: codes are told apart without regard to small letters, so that the first
 * brine of a batch and its barrel B1 would be one.
 */
export async function firstFree(tx: Reader, codeOf: (number: number) => string, from = 1): Promise<string> {
  for (let number = from; ; number += 1) {
    const [taken] = await tx
      .select({ id: lot.id })
      .from(lot)
      .where(eq(lot.codeKey, codeKey(codeOf(number))));
    if (!taken) return codeOf(number);
  }
}

/** Movements are numbered by the entry that wrote them. */
export async function nextMovement({ tx, seq, anew }: Pick<InHand, 'tx' | 'seq' | 'anew'>): Promise<number> {
  const first = (anew?.seq ?? seq) * 1000;
  const [row] = await tx
    .select({ last: max(movement.id) })
    .from(movement)
    .where(and(gte(movement.id, first), lt(movement.id, first + 1000)));
  return row?.last == null ? first : row.last + 1;
}

interface NewMovement {
  readonly from:
    { readonly lot: LotRow } | { readonly source: 'received' | 'opening' | 'countDifference' | 'jarsBack' };
  readonly to: { readonly lotId: string } | { readonly sink: NonNullable<typeof movement.$inferInsert.sink> };
  readonly grams: number;
  /** The field the mass was typed in. */
  readonly field?: string;
  /** Counted by the piece, not weighed: no more than there are. */
  readonly pieces?: true;
}

/** Writes movements of an entry, each checked against what its lot holds at that moment. */
export async function addMovements(
  recording: InHand,
  moves: readonly NewMovement[],
  root?: { entryId: string; kind: string; at: Date },
): Promise<void> {
  const kind = root?.kind ?? recording.entry.kind;
  const at = root?.at ?? recording.at;
  let id = await nextMovement(recording);
  for (const move of moves) {
    if ('lot' in move.from) {
      const held = await balance(recording.tx, move.from.lot, at);
      const exact = move.pieces && !happened(recording.tx) ? { ...held, toleranceGrams: 0 } : held;
      must(decideDraw({ balance: exact, grams: move.grams, field: move.field }));
    }
    await recording.tx.insert(movement).values({
      id,
      seq: recording.seq,
      rootEntryId: root?.entryId ?? recording.entry.id,
      kind,
      at,
      fromLot: 'lot' in move.from ? move.from.lot.id : null,
      source: 'source' in move.from ? move.from.source : null,
      toLot: 'lotId' in move.to ? move.to.lotId : null,
      sink: 'sink' in move.to ? move.to.sink : null,
      milligrams: toMilligrams(move.grams),
    });
    id += 1;
  }
}

/** A vessel from which all was taken is free: none lives with nothing in it. True where it was closed now. */
export async function closeEmptied({ tx, at }: InHand, fill: LotRow): Promise<boolean> {
  if (fill.kind !== 'fill' || !fill.metered || (await balance(tx, fill, at)).leastLaterGrams > 0.5) return false;
  await tx.update(lot).set({ closedAt: at }).where(eq(lot.id, fill.id));
  return true;
}

/** What a lot holds at a moment, and the least it holds after. */
export async function balance(tx: Reader, found: LotRow, at: Date) {
  if (!found.metered)
    return { code: found.code, metered: false, toleranceGrams: 0, inGrams: 0, atGrams: 0, leastLaterGrams: 0 };
  const [row] = await rows<{ at_mg: string | null; in_mg: string | null; least_mg: string | null }>(
    tx,
    sql`
    with signed as (
      select at, seq, milligrams as mg, milligrams as inflow from live_movement where to_lot = ${found.id}
      union all
      select at, seq, -milligrams, 0 from live_movement where from_lot = ${found.id}
    ), running as (
      select at, inflow, mg, sum(mg) over (order by at, seq) as standing from signed
    )
    select coalesce(sum(mg) filter (where at <= ${at.toISOString()}), 0) as at_mg,
           sum(inflow) as in_mg,
           min(standing) filter (where at > ${at.toISOString()}) as least_mg
    from running`,
  );
  const atGrams = toGrams(row?.at_mg ?? 0);
  const inGrams = toGrams(row?.in_mg ?? 0);
  const stage = found.kind === 'fill' || found.kind === 'run' ? 'upToJars' : 'upToFilling';
  return {
    code: found.code,
    metered: true,
    toleranceGrams: tallyTolerance({ stage, inGrams }),
    inGrams,
    atGrams,
    leastLaterGrams: row?.least_mg == null ? atGrams : toGrams(row.least_mg),
  };
}
