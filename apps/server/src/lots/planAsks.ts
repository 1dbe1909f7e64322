import type { CheckAsks } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';

/** Checks in the house's own words that want a figure or words, by vessel and then by their words. */
export async function planAsks(
  reader: Reader,
  fillIds: readonly string[],
): Promise<Map<string, ReadonlyMap<string, CheckAsks>>> {
  const found = await rows<{ id: string; checks: { words: string; asks: CheckAsks }[] | null }>(
    reader,
    sql`
    select l.id, (select jsonb_agg(c) from jsonb_array_elements(coalesce(own.checks, of_batch.checks, f.data -> 'checks', '[]')) c
      where c ->> 'what' = 'own' and jsonb_typeof(c -> 'asks') = 'object') as checks
    from lot l left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
      left join check_plan own on own.lot_id = l.id left join check_plan of_batch on of_batch.lot_id = l.batch_id
    where l.id = ${anyOf(fillIds)}`,
  );
  return new Map(found.map(({ id, checks }) => [id, new Map((checks ?? []).map(({ words, asks }) => [words, asks]))]));
}
