import type { LabelsReply } from '@clear-tally/contract';
import { desc, eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { labelTally } from '../../db/schema/labels.js';
import { labelledRun, labelParts, partWords } from '../../lots/labelFacts.js';
import { jarsOf } from '../../lots/runs.js';

/** Designs of the house, what came out for a run, and where it is. */
export async function readLabels(reader: Reader, code: string): Promise<LabelsReply> {
  const run = await labelledRun(reader, code);
  const designs = await rows<LabelsReply['designs'][number]>(
    reader,
    sql`
    select design_id as "designId", name, formula_id as "formulaId", design from (select distinct on (design_id) * from label_design order by design_id, seq desc) d
    where formula_id is null or formula_id = ${run.formulaId} order by formula_id is null, seq desc`,
  );
  const prints = await rows<Omit<LabelsReply['prints'][number], 'at'> & { at: Date }>(
    reader,
    sql`
    select j.first_serial as first, j.last_serial as last, j.at, p.initials as by, j.printer, j.reason, l.code as "labelLot"
    from jar_label j join person p on p.id = j.by left join lot l on l.id = j.label_lot_id where j.run_lot_id = ${run.lotId} order by j.at, j.seq`,
  );
  const [tally] = await reader
    .select({
      used: labelTally.used,
      spoiled: labelTally.spoiled,
      back: labelTally.back,
      reason: labelTally.reason,
      clear: labelTally.clear,
    })
    .from(labelTally)
    .where(eq(labelTally.runLotId, run.lotId))
    .orderBy(desc(labelTally.at), desc(labelTally.seq))
    .limit(1);
  const last = Math.max(1, ...(await jarsOf(reader, [run.lotId])).map((one) => one.last));
  const labelled = Math.max(0, ...prints.map((one) => one.last));
  return {
    run: { lotId: run.lotId, code: run.code, name: run.name, last, formulaId: run.formulaId },
    designs,
    prints: prints.map((one) => ({ ...one, at: new Date(one.at).toISOString() })),
    out: prints.reduce((sum, one) => sum + one.last - one.first + 1, 0),
    tally: tally ?? null,
    parts: (await labelParts(reader, run)).map((part) => ({
      first: part.first,
      last: part.last,
      words: partWords(part),
    })),
    next: labelled < last ? labelled + 1 : null,
  };
}
