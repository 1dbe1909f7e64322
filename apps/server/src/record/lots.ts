import { and, eq, isNull, sql } from 'drizzle-orm';
import { decideDraw, tallyTolerance } from '@clear-tally/core';
import { rows, type Reader } from '../db/database.js';
import { hold, lot, movement, toGrams, toMilligrams } from '../db/schema/index.js';
import type { LOT_KINDS } from '../db/schema/ledger.js';
import { must, refused } from './refused.js';
import type { InHand } from './handler.js';

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
export async function loadLot(tx: Reader, id: string, field: string, kinds?: readonly LotKind[]): Promise<LotRow> {
  const [found] = await tx.select().from(lot).where(eq(lot.id, id));
  if (!found)
    throw refused('lot.unknown', `No lot ${id} is known in this house. Choose it from the list, or scan its code.`, {
      field,
    });
  if (kinds && !kinds.includes(found.kind)) {
    throw refused(
      'lot.wrongKind',
      `${found.code} is ${KIND_WORDS[found.kind]}; ${kinds.map((kind) => KIND_WORDS[kind]).join(' or ')} is accepted here.`,
      { field },
    );
  }
  return found;
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

export async function addLot(recording: InHand, row: NewLot): Promise<void> {
  await recording.tx.insert(lot).values({ ...row, codeKey: codeKey(row.code), seq: recording.seq });
}

/** Many lots of one entry at once. */
export async function addLots(recording: InHand, added: readonly NewLot[]): Promise<void> {
  await recording.tx
    .insert(lot)
    .values(added.map((row) => ({ ...row, codeKey: codeKey(row.code), seq: recording.seq })));
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
  await tx.insert(movement).values(moves.map((move, index) => ({ ...move, id: seq * 1000 + index })));
}

/** A code as it is looked up: no separators, capitals. */
export const codeKey = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/**
 * The first of a row of codes that nobody has: codes are told apart without regard to small letters, so that the first
 * brine of a batch and its barrel B1 would be one.
 */
export async function firstFree(tx: Reader, codeOf: (number: number) => string, from = 1): Promise<string> {
  for (let number = from; ; number += 1) {
    const [taken] = await rows<{ id: string }>(tx, sql`select id from lot where code_key = ${codeKey(codeOf(number))}`);
    if (!taken) return codeOf(number);
  }
}

interface NewMovement {
  readonly from: { readonly lot: LotRow } | { readonly source: 'received' | 'opening' | 'countDifference' };
  readonly to: { readonly lotId: string } | { readonly sink: NonNullable<typeof movement.$inferInsert.sink> };
  readonly grams: number;
  /** The field the mass was typed in. */
  readonly field?: string;
}

/** Writes movements of an entry, each checked against what its lot holds at that moment. */
export async function addMovements(
  recording: InHand,
  moves: readonly NewMovement[],
  root?: { entryId: string; kind: string; at: Date },
): Promise<void> {
  const kind = root?.kind ?? recording.entry.kind;
  const at = root?.at ?? recording.at;
  const [{ taken } = { taken: 0 }] = await rows<{ taken: number }>(
    recording.tx,
    sql`select count(*)::int as taken from movement where seq = ${recording.seq}`,
  );
  let number = taken;
  for (const move of moves) {
    if ('lot' in move.from) {
      must(
        decideDraw({ balance: await balance(recording.tx, move.from.lot, at), grams: move.grams, field: move.field }),
      );
    }
    await recording.tx.insert(movement).values({
      id: recording.seq * 1000 + number,
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
    number += 1;
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
