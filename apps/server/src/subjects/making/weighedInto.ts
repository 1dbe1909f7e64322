import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { entryJson } from '../../db/entryJson.js';
import { toGrams } from '../../db/schema/columns.js';
import type { BatchState } from '../../lots/batchSalt.js';

interface WeighedRow {
  readonly entryId: string;
  readonly kind: string;
  readonly lotCode: string;
  readonly materialId: string | null;
  readonly materialName: string;
  readonly supplierName: string | null;
  readonly supplierLotCode: string | null;
  readonly mg: string;
  readonly at: Date;
  readonly by: string;
  readonly trimMg: string | null;
  readonly scale: string | null;
  readonly together: boolean;
}

/** What was weighed into a batch or its brine, oldest first, by the kind of its entry; produce with what was trimmed off it. */
export async function weighedInto(reader: Reader, batchId: string, brine: BatchState['brine']) {
  const weighed = await rows<WeighedRow>(
    reader,
    sql`
    select m.root_entry_id as "entryId", m.kind, s.code as "lotCode", s.material_id as "materialId", s.name as "materialName", p.name as "supplierName", s.supplier_lot_code as "supplierLotCode", m.milligrams as mg, m.at, pe.initials as by, e.tag as scale, (coalesce((select c."right" from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1), ${entryJson(sql`j.entry`)}) -> 'body' -> 'mixedGrams') is not null as together,
      (select sum(t.milligrams) from live_movement t where t.seq = m.seq and t.sink = 'trim') as "trimMg"
    from live_movement m join lot s on s.id = m.from_lot left join supplier p on p.id = s.supplier_id
    join journal j on j.entry_id = m.root_entry_id join person pe on pe.id = j.by
    left join weighed_on w on w.entry_id = m.root_entry_id left join equipment e on e.id = w.equipment_id
    where m.to_lot in (${batchId}, ${brine?.lotId ?? batchId}) and m.kind in ('produce.weigh', 'salt.weigh', 'ingredient.add') order by m.at, m.id`,
  );
  const all = weighed.map(({ kind, mg, at, trimMg, ...row }) => ({
    kind,
    line: { ...row, grams: toGrams(mg), at: at.toISOString() },
    trimWasteGrams: toGrams(trimMg ?? 0),
  }));
  const of = (wanted: string) => all.filter(({ kind }) => kind === wanted);
  return {
    produce: of('produce.weigh').map(({ line, trimWasteGrams }) => ({ ...line, trimWasteGrams })),
    salt: of('salt.weigh').map(({ line }) => line),
    ingredients: of('ingredient.add').map(({ line }) => line),
  };
}
