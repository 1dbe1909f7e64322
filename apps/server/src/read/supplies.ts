import { sql, type SQL } from 'drizzle-orm';
import type { SuppliesReply } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';
import { onHandMg } from '../db/lotFigures.js';
import { toGrams } from '../db/schema/index.js';

/** Supply lots that still hold something, first to expire first, then the oldest. */
export async function readSupplies(reader: Reader, filter: { kind?: string; materialId?: string }): Promise<SuppliesReply> {
  const wanted: SQL = filter.materialId ? sql`and l.material_id = ${filter.materialId}` : filter.kind ? sql`and m.kind = ${filter.kind}` : sql``;
  const found = await rows<{ lotId: string; code: string; materialId: string; materialName: string; supplierName: string | null; supplierLotCode: string | null; mg: string; metered: boolean; at: Date; useBy: string | null; hold: string | null }>(reader, sql`
    select l.id as "lotId", l.code, m.id as "materialId", m.name as "materialName", s.name as "supplierName", l.supplier_lot_code as "supplierLotCode", l.metered, l.at, l.use_by::text as "useBy", h.reason as hold,
      ${onHandMg(sql`l.id`)} as mg
    from lot l join material m on m.id = l.material_id left join supplier s on s.id = l.supplier_id left join hold h on h.lot_id = l.id and h.lifted_at is null
    where l.kind = 'supply' ${wanted} order by l.use_by nulls last, l.at, l.seq`);
  return {
    lots: found.filter((row) => !row.metered || Number(row.mg) > 0).map(({ mg, metered, at, ...row }) => ({ ...row, onHandGrams: metered ? toGrams(mg) : null, receivedAt: new Date(at).toISOString() })),
  };
}
