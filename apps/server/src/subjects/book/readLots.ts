import type { LotReply, LotsReply } from '@clear-tally/contract';
import { dayNumber, EARLIEST_DAY, isRecordable, jarCode, phStanding, saltFigure } from '@clear-tally/core';
import { and, asc, eq, or, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { jarRange, lot as lots } from '../../db/schema/ledger.js';
import { supplier as supplierOf } from '../../db/schema/stores.js';
import { bookLines } from '../../journal/bookLines.js';
import { acidLimitsOf } from '../../lots/acidLimits.js';
import { contentsIn } from '../../lots/contents.js';
import { cleanedWith, loadHouse, usedSince } from '../../lots/house.js';
import { lotAllergens } from '../../lots/lotAllergens.js';
import { lotByCode } from '../../lots/lotByCode.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { type LotRow, openHold } from '../../lots/lots.js';
import { phPoints } from '../../lots/readings.js';
import { phShown } from '../../lots/shelf.js';
import { tallyOf } from '../../lots/tallyOf.js';
import { walkBack } from '../../lots/walk.js';
import { loadWatched } from '../../lots/watched.js';

/** The book of one lot. A filled vessel's book carries its batch's making, a batch's book its vessels. */
export async function readLot(reader: Reader, code: string, now: Date): Promise<LotReply> {
  const lot = await lotByCode(reader, code);
  const house = await loadHouse(reader);
  const family = await reader
    .select({ id: lots.id, code: lots.code })
    .from(lots)
    .where(
      or(
        eq(lots.id, lot.id),
        lot.batchId === null ? undefined : eq(lots.id, lot.batchId),
        lot.batchId === null
          ? undefined
          : and(eq(lots.batchId, lot.batchId), lot.kind === 'batch' ? undefined : eq(lots.kind, 'preparation')),
      ),
    );
  const [vessel] = lot.vesselId
    ? await rows<NonNullable<LotReply['vessel']> & { cleanedAt: Date | null; maxFill: string }>(
        reader,
        sql`
    select v.tag, v.shape, v.closure, v.brim_ml as "brimMl", v.max_fill as "maxFill", r.name as room, v.cleaned_at as "cleanedAt", ${cleanedWith(sql`v`)} as "cleanedWith", ${usedSince(sql`v`)} as "usedSince" from vessel v join room r on r.id = v.room_id where v.id = ${lot.vesselId}`,
      )
    : [];
  const [supplier] = lot.supplierId
    ? await reader.select({ name: supplierOf.name }).from(supplierOf).where(eq(supplierOf.id, lot.supplierId))
    : [];
  const jars = await reader
    .select()
    .from(jarRange)
    .where(eq(jarRange.runLotId, lot.id))
    .orderBy(asc(jarRange.firstSerial));
  const hold = await openHold(reader, lot.id);
  const [watched] = lot.kind === 'fill' ? await loadWatched(reader, now, [lot.id]) : [];
  return {
    lotId: lot.id,
    code: lot.code,
    kind: lot.kind,
    name: lot.name,
    origin: lot.origin,
    at: lot.at.toISOString(),
    day:
      lot.kind === 'fill'
        ? dayNumber({ filledAt: lot.at.getTime(), at: (lot.closedAt ?? now).getTime(), timeZone: house.timeZone })
        : null,
    batchCode: family.find((row) => row.id === lot.batchId)?.code ?? null,
    closed: lot.closedAt !== null,
    hold,
    vessel: vessel
      ? {
          ...vessel,
          maxFill: Number(vessel.maxFill),
          cleanedAt: vessel.cleanedAt ? new Date(vessel.cleanedAt).toISOString() : null,
        }
      : null,
    supplier: supplier ? { ...supplier, lotCode: lot.supplierLotCode } : null,
    jars: jars.map((range) => ({
      sizeMl: range.sizeMl,
      netGrams: toGrams(range.netMilligrams),
      first: jarCode(lot.code, range.firstSerial).text,
      last: jarCode(lot.code, range.lastSerial).text,
      count: range.lastSerial - range.firstSerial + 1,
    })),
    relatives: await relatives(reader, lot.id),
    lines: await onlyIts(
      reader,
      lot,
      await bookLines(
        reader,
        family.map((row) => row.id),
      ),
    ),
    tally: await tallyOf(reader, lot),
    salt: lot.kind === 'supply' ? null : saltFigure(await contentsIn(reader, lot.id)),
    acidLimit: watched?.acidLimit ?? (await acidLimitsOf(reader, [lot.id])).get(lot.id)!,
    allergens: await lotAllergens(reader, lot.id),
    packable: watched && !watched.packable.ok ? watched.packable.refusal.message : null,
  };
}

/** The book of a vessel lists what went into it and out of it, and what was done: not what was weighed, poured or filled for its sisters. */
async function onlyIts(reader: Reader, of: LotRow, lines: LotReply['lines']): Promise<LotReply['lines']> {
  if (of.kind !== 'fill' || lines.length === 0) return lines;
  const moved = await rows<{ entryId: string; mine: boolean }>(
    reader,
    sql`
    with way as (${walkBack(of.id)})
    select m.root_entry_id as "entryId", bool_or(m.from_lot = ${of.id} or m.to_lot is not distinct from ${of.id}::uuid or m.id in (select id from way)) is true as mine
    from movement m where m.root_entry_id in ${lines.map(({ entryId }) => entryId)} group by 1`,
  );
  const others = new Set(moved.filter(({ mine }) => !mine).map(({ entryId }) => entryId));
  return lines.filter(({ entryId }) => !others.has(entryId));
}

async function relatives(reader: Reader, lotId: string): Promise<LotReply['relatives']> {
  const found = await rows<{
    lotId: string;
    code: string;
    kind: string;
    name: string;
    mg: string;
    direction: 'in' | 'out';
  }>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.kind, l.name, sum(m.milligrams) as mg, case when m.to_lot = ${lotId} then 'in' else 'out' end as direction
    from live_movement m join lot l on l.id = case when m.to_lot = ${lotId} then m.from_lot else m.to_lot end
    where m.to_lot = ${lotId} or m.from_lot = ${lotId} group by 1, 2, 3, 4, 6 order by 6, min(m.at) limit 200`,
  );
  return found.map(({ mg, ...row }) => ({ ...row, grams: toGrams(mg) }));
}

/** Written out in the question: the planner is to know how few are asked for. */
const PAGE = 60;

/** A day that is none stands at the beginning of all days, beside words that say so. */
const momentOr = (at: Date): string =>
  isRecordable(at.getTime()) ? at.toISOString() : `${EARLIEST_DAY}T00:00:00.000Z`;

/** The book's index: newest first, by page of key. Supplies are in the stores, preparations in their batch. */
export async function readLots(
  reader: Reader,
  query: { kind?: string; before?: number; search?: string; many?: number },
): Promise<LotsReply> {
  const many = query.many ?? PAGE;
  const like = `%${(query.search ?? '').replace(/[%_\\]/g, '\\$&')}%`;
  const found = await rows<{
    lotId: string;
    seq: string;
    code: string;
    kind: string;
    name: string;
    at: Date;
    closed: boolean;
    undone: boolean;
    hold: string | null;
    mg: string;
    metered: boolean;
    vesselTag: string | null;
    jars: number | null;
    origin: string;
  }>(
    reader,
    sql`
    select l.id as "lotId", l.seq, l.code, l.kind, l.name, l.at, l.closed_at is not null as closed, l.undone_seq is not null as undone, l.metered, l.origin, h.reason as hold, v.tag as "vesselTag",
      (select sum(last_serial - first_serial + 1)::int from jar_range where run_lot_id = l.id) as jars,
      ${onHandMg(sql`l.id`)} as mg
    from lot l left join open_hold h on h.lot_id = l.id left join vessel v on v.id = l.vessel_id
    where l.kind = ${query.kind ?? 'fill'} and l.seq < ${query.before ?? Number.MAX_SAFE_INTEGER} ${query.search || query.many ? sql`` : sql`and l.undone_seq is null`} ${query.search ? sql`and (l.code ilike ${like} or l.name ilike ${like} or l.supplier_lot_code ilike ${like})` : sql``}
    order by l.seq desc, l.code limit ${sql.raw(String(many + 1))}`,
  );
  const page = found.slice(0, many);
  const points = await phPoints(
    reader,
    page.map(({ lotId }) => lotId),
  );
  return {
    lots: page.map((row) => ({
      lotId: row.lotId,
      code: row.code,
      kind: row.kind,
      name: row.name,
      at: momentOr(row.at),
      vesselTag: row.vesselTag,
      jars: row.jars,
      state: !isRecordable(row.at.getTime())
        ? 'cannot be read'
        : row.undone
          ? 'never was'
          : row.hold
            ? 'on hold'
            : row.origin === 'beforeLedger' && !row.closed
              ? 'before these records'
              : row.closed && row.kind === 'fill'
                ? 'emptied'
                : 'live',
      ...phShown(phStanding(points.get(row.lotId) ?? [])),
      onHandGrams: row.metered ? toGrams(row.mg) : null,
    })),
    next: found.length > many ? page.at(-1)!.seq : null,
  };
}
