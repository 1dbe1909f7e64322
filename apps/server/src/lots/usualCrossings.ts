import type { BodyOf } from '@clear-tally/contract';
import type { Check } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';

const ENOUGH_VESSELS = 3;

/** When vessels of a formula came to the limit: from the 10 % to the 90 % point of those the house has read. */
export async function usualCrossings(
  reader: Reader,
  fills: readonly { readonly plan: readonly Check[] | null; readonly formula: BodyOf<'formula.save'> | null }[],
  acidLimit: number,
): Promise<Map<string, { fromHours: number; toHours: number }>> {
  const formulas = [
    ...new Set(
      fills
        .filter(({ plan, formula }) =>
          (plan ?? formula?.checks ?? []).some(({ rule }) => rule.kind === 'aroundCrossing'),
        )
        .map(({ formula }) => formula!.formulaId),
    ),
  ];
  if (formulas.length === 0) return new Map();
  const found = await rows<{ formulaId: string; from: number; to: number; vessels: number }>(
    reader,
    sql`
    with crossed as (
      select l.formula_id, l.id, extract(epoch from min(r.at) - l.at) / 3600 as hours from lot l join live_reading r on r.lot_id = l.id and r.kind = 'ph' and r.value <= ${acidLimit} and r.sample = 'blended' and r.for_release
      where l.kind = 'fill' and l.formula_id = ${anyOf(formulas)} group by l.formula_id, l.id, l.at
    ) select formula_id as "formulaId", percentile_cont(0.1) within group (order by hours) as "from", percentile_cont(0.9) within group (order by hours) as "to", count(*)::int as vessels from crossed group by formula_id`,
  );
  return new Map(
    found
      .filter(({ vessels }) => vessels >= ENOUGH_VESSELS)
      .map((row) => [row.formulaId, { fromHours: Number(row.from), toHours: Number(row.to) }]),
  );
}
