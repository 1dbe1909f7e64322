import type { RunReply } from '@clear-tally/contract';
import { shelfEvidence } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import type { LotRow } from './lots.js';

/** What retained jars of a run's formula say of its shelf life, beside what its label gives. */
export async function shelfOf(reader: Reader, run: LotRow): Promise<RunReply['shelf']> {
  const tastings = await rows<{ run: string; packedAt: Date; at: Date; fine: boolean }>(
    reader,
    sql`
    select l.code as run, l.at as "packedAt", c.at, c.says = 'fine' as fine from run_check c join lot l on l.id = c.run_lot_id
    where c.what = 'taste' and (l.id = ${run.id} or (l.formula_id = ${run.formulaId} and l.kind = 'run' and l.undone_seq is null)) order by c.at desc limit 400`,
  );
  const [label] = await rows<{ days: number | null }>(
    reader,
    sql`
    select (d.design->>'untilDays')::int as days from jar_label j join lateral (select design from label_design d where d.design_id = j.design_id order by d.seq desc limit 1) d on true
    where j.run_lot_id = ${run.id} order by j.at desc, j.seq desc limit 1`,
  );
  const labelDays = label?.days ?? null;
  return {
    labelDays,
    ...shelfEvidence({
      labelDays,
      tastings: tastings.map((one) => ({
        ...one,
        packedAt: new Date(one.packedAt).getTime(),
        at: new Date(one.at).getTime(),
      })),
    }),
  };
}
