import type { LotReply } from '@clear-tally/contract';
import { rollUpAllergens } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { walkBack } from './walk.js';

/**
 * Allergens of a lot by its ancestry: what a donor's spices brought into its brine comes along, and what went in from a
 * lot that nobody knows stays, by its material. Source: handbook 7.
 */
export async function lotAllergens(reader: Reader, lotId: string): Promise<LotReply['allergens']> {
  const found = await rows<{ name: string; allergens: string[]; mayContain: string[] | null }>(
    reader,
    sql`
    select distinct x.name, x.allergens, x.details->'mayContain' as "mayContain" from (${walkBack(lotId)}) w join lot l on l.id = w."from" join material x on x.id = l.material_id
    union select x.name, x.allergens, x.details->'mayContain' from lot l join material x on x.id = l.material_id where l.id = ${lotId}
    union select x.name, x.allergens, x.details->'mayContain' from line_mark k join lot b on b.id = k.batch_id join formula f on f.formula_id = b.formula_id and f.version = b.formula_version
      join material x on x.id = (f.data->'lines'->(substr(k.line, 6)::int)->>'materialId')::uuid
      where k.how = 'ticked' and k.line ~ '^line-[0-9]+$' and (k.batch_id = ${lotId} or k.batch_id in (select w."from" from (${walkBack(lotId)}) w))`,
  );
  return rollUpAllergens(
    found.map(({ name, allergens, mayContain }) => ({ name, allergens, mayContain: mayContain ?? [] })),
  ).map(({ words, certain, from }) => ({ words, certain, from: [...from] }));
}
