import type { FormulaReply } from '@clear-tally/contract';
import { learnedYield } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

/**
 * What the last lots of a formula really gave: trimmed of what was taken in hand, packed of what was filled,
 * in jars of what went to packing. Median and spread of up to eight.
 */
export async function learnedYields(reader: Reader, formulaId: string): Promise<FormulaReply['learned']> {
  const trims = await rows<{ trimmed: string | null; waste: string | null }>(
    reader,
    sql`
    select (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind = 'produce.weigh') as trimmed,
      (select sum(t.milligrams) from live_movement t where t.sink = 'trim' and t.seq in (select m.seq from live_movement m where m.to_lot = l.id and m.kind = 'produce.weigh')) as waste
    from lot l where l.kind = 'batch' and l.formula_id = ${formulaId} order by l.seq desc limit 8`,
  );
  const fills = await rows<{ filled: string | null; packed: string | null; jars: string | null }>(
    reader,
    sql`
    select (select sum(m.milligrams) from live_movement m where m.to_lot = l.id) as filled,
      (select sum(m.milligrams) from live_movement m where m.from_lot = l.id and m.kind = 'pack.run' and m.to_lot is not null) as packed,
      (select sum((r.last_serial - r.first_serial + 1) * r.net_milligrams) from jar_range r where r.run_lot_id in (select m.to_lot from live_movement m where m.from_lot = l.id and m.kind = 'pack.run')) as jars
    from lot l join lot b on b.id = l.batch_id where l.kind = 'fill' and l.closed_at is not null and b.formula_id = ${formulaId} order by l.seq desc limit 8`,
  );
  const ratio = (a: string | null, b: number): number => (b > 0 ? Number(a ?? 0) / b : 0);
  return {
    trim: learnedYield(
      trims
        .filter((row) => Number(row.waste) > 0)
        .map((row) => ratio(row.trimmed, Number(row.trimmed) + Number(row.waste))),
    ),
    ferment: learnedYield(
      fills.filter((row) => Number(row.packed) > 0).map((row) => ratio(row.packed, Number(row.filled))),
    ),
    pack: learnedYield(fills.filter((row) => Number(row.jars) > 0).map((row) => ratio(row.jars, Number(row.packed)))),
  };
}
