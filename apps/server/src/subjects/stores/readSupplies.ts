import type { StockReply, SuppliesReply } from '@clear-tally/contract';
import {
  type AtDoor,
  firstToUse,
  isoDay,
  keeping,
  type StandsFor,
  type SupplyState,
  unitOfKind,
} from '@clear-tally/core';
import { type SQL, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { loadHouse } from '../../lots/house.js';
import { onHandMg } from '../../lots/lotFigures.js';

interface SupplyRow {
  lotId: string;
  code: string;
  materialId: string;
  materialName: string;
  kind: string;
  supplierName: string | null;
  supplierLotCode: string | null;
  mg: string;
  metered: boolean;
  at: Date;
  useBy: string | null;
  hold: string | null;
  state: SupplyState;
  keepsUntil: string | null;
  cost: string | null;
  reference: string | null;
  condition: string | null;
  door: AtDoor | null;
  photo: string | null;
  low: string | null;
  standsFor: StandsFor | null;
}

const select = (reader: Reader, wanted: SQL): Promise<SupplyRow[]> =>
  rows<SupplyRow>(
    reader,
    sql`
  select l.id as "lotId", l.code, m.id as "materialId", m.name as "materialName", m.kind, s.name as "supplierName", l.supplier_lot_code as "supplierLotCode", l.metered, l.at, l.use_by::text as "useBy", h.reason as hold,
    l.state, l.keeps_until::text as "keepsUntil", l.cost, l.reference, l.condition, l.door, l.photo, m.details->>'lowStockGrams' as low, m.details->>'standsFor' as "standsFor", ${onHandMg(sql`l.id`)} as mg
  from lot l join material m on m.id = l.material_id left join supplier s on s.id = l.supplier_id left join open_hold h on h.lot_id = l.id
  where l.kind = 'supply' and (l.id in (select in_store from lot_balance where in_store is not null) or l.id in (select id from lot where not metered)) ${wanted} order by l.at, l.seq`,
  );

/** Today by the house's own calendar. */
async function todayOf(reader: Reader, now: Date): Promise<string> {
  return isoDay(now.getTime(), (await loadHouse(reader)).timeZone);
}

const shaped =
  (today: string) =>
  ({
    mg,
    metered,
    at,
    kind,
    cost: __,
    reference: ___,
    condition: ____,
    door: _______,
    photo: ______,
    keepsUntil,
    low: _____,
    ...row
  }: SupplyRow): SuppliesReply['lots'][number] => {
    const { until, verdict, days } = keeping({ today, useBy: row.useBy, keepsUntil, state: row.state });
    return {
      ...row,
      onHandGrams: metered ? toGrams(mg) : null,
      receivedAt: new Date(at).toISOString(),
      until,
      keeps: verdict,
      days,
      unit: unitOfKind(kind),
    };
  };

const standing = (row: SupplyRow): boolean => !row.metered || Number(row.mg) > 0;

/** Supply lots that still hold something, first to expire first, then the oldest. */
export async function readSupplies(
  reader: Reader,
  filter: { kind?: string; materialId?: string },
  now: Date,
): Promise<SuppliesReply> {
  // What goes into food; packaging only where it is asked for.
  const wanted: SQL = filter.materialId
    ? sql`and l.material_id = ${filter.materialId}`
    : filter.kind
      ? sql`and m.kind = ${filter.kind}`
      : sql`and m.kind <> 'packaging'`;
  return { lots: firstToUse((await select(reader, wanted)).filter(standing).map(shaped(await todayOf(reader, now)))) };
}

/** Everything in the stores, and what is running low by material. */
export async function readStock(reader: Reader, now: Date): Promise<StockReply> {
  const today = await todayOf(reader, now);
  const found = (await select(reader, sql``)).filter(standing);
  const shape = shaped(today);
  const materials = await rows<{ materialId: string; name: string; kind: string; low: string; mg: string | null }>(
    reader,
    sql`
    select m.id as "materialId", m.name, m.kind, m.details->>'lowStockGrams' as low, (select sum(b.in_milligrams - b.out_milligrams) from lot_balance b join lot l on l.id = b.in_store where b.in_store is not null and l.material_id = m.id) as mg
    from material m where m.details->>'lowStockGrams' is not null order by m.name`,
  );
  return {
    today,
    lots: firstToUse(
      found.map((row) => ({
        ...shape(row),
        kind: row.kind,
        cost: row.cost === null ? null : Number(row.cost),
        reference: row.reference,
        condition: row.condition,
        door: row.door,
        keepsUntil: row.keepsUntil,
        photo: row.photo,
      })),
    ),
    low: materials
      .map(({ materialId, name, kind, low, mg }) => ({
        materialId,
        name,
        unit: unitOfKind(kind),
        onHandGrams: toGrams(mg ?? 0),
        lowStockGrams: Number(low),
      }))
      .filter((row) => row.onHandGrams < row.lowStockGrams),
  };
}
