import { alwaysWeighed, scaleFormula, settleLines, type SheetLine } from '@clear-tally/core';
import { eq, inArray, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { lineMark } from '../../db/schema/making.js';
import { material } from '../../db/schema/stores.js';
import type { BatchState } from '../../lots/batchSalt.js';
import type { LotRow } from '../../lots/lots.js';
import { scalable } from '../../lots/scalable.js';

/** Lines that go in at mixing, with what was weighed for each: into the bowls, or into a preparation of this batch. */
export async function sheetLines(reader: Reader, batch: LotRow, state: BatchState): Promise<SheetLine[]> {
  const ready = await scalable(reader, state.formula);
  const target = state.produceGrams > 0 ? { from: 'trimmed' as const, trimmedGrams: state.produceGrams } : batch.plan!;
  const planned = scaleFormula({
    formula: ready,
    target,
    variant: batch.variant,
    measuredLeafSalt: batch.measuredLeafSalt,
  }).lines.filter((line) => line.role === 'ingredient' && line.stage === 'mix');
  // What was recorded is read here, not in the database: one odd character in an old entry would end the whole question.
  const weighed = (
    await rows<{
      entry: string;
      fromLot: string;
      supply: boolean;
      materialId: string | null;
      mg: string;
      ticked: boolean;
    }>(
      reader,
      sql`
    select j.entry, m.from_lot as "fromLot", (l.kind = 'supply' or k.id is not null) as supply, coalesce(l.material_id, k.id) as "materialId", m.milligrams as mg, j.kind = 'line.settle' as ticked
    from live_movement m join lot l on l.id = m.from_lot join journal j on j.entry_id = m.root_entry_id
    left join material k on l.material_id is null and k.details->>'standsFor' = 'keptBrine' and (l.form = 'keptBrine' or l.kind = 'fill')
    where m.kind in ('ingredient.add', 'preparation.make') and m.to_lot in (select ${batch.id}::uuid union all select id from lot where batch_id = ${batch.id} and kind = 'preparation')`,
    )
  )
    .map(({ entry, fromLot, ...row }) => ({ ...row, line: lineOf(entry, fromLot) }))
    .filter(({ supply, line }) => supply || line !== null);
  const tickable = new Map(
    planned.length === 0
      ? []
      : (
          await reader
            .select()
            .from(material)
            .where(
              inArray(
                material.id,
                planned.map((line) => line.materialId!),
              ),
            )
        ).map((row): [string, boolean] => [row.id, alwaysWeighed({ ...row, ...row.details }) === null]),
  );
  const marks = await reader.select().from(lineMark).where(eq(lineMark.batchId, batch.id));
  return settleLines({
    planned: planned.map((line) => ({
      key: line.key,
      materialId: line.materialId!,
      name: line.name,
      grams: line.grams,
      usual: line.usual,
      mayTick: tickable.get(line.materialId!) ?? false,
    })),
    weighed: weighed.map((row) => ({
      line: row.line,
      materialId: row.materialId ?? '',
      grams: toGrams(row.mg),
      ticked: row.ticked,
    })),
    marks: Object.fromEntries(marks.map((mark) => [mark.line, { how: mark.how, reason: mark.reason }])),
  });
}

/** The formula line an entry names for what it took of a lot. */
function lineOf(text: string, fromLot: string): string | null {
  const { body } = JSON.parse(text) as {
    body: { line?: string | null; parts?: { fromLotId: string; line?: string | null }[] };
  };
  return body.line ?? body.parts?.find((part) => part.fromLotId === fromLot)?.line ?? null;
}
