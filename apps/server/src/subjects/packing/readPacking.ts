import type { PackingReply } from '@clear-tally/contract';
import { byAllergens } from '@clear-tally/core';
import { and, between, desc, eq, isNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { lotAllergens } from '../../lots/lotAllergens.js';
import { loadLot } from '../../lots/lots.js';
import { standing } from '../../lots/standing.js';

const DAY = 86_400_000;

/** At the packing table of one vessel. */
export async function readPacking(reader: Reader, fillLotId: string, now: Date): Promise<PackingReply> {
  const fill = await loadLot(reader, fillLotId, 'fillLotId', ['fill']);
  const known = new Map<string, string[]>();
  const allergensOf = async (lotId: string): Promise<string[]> => {
    if (!known.has(lotId))
      known.set(
        lotId,
        (await lotAllergens(reader, lotId)).map(({ words }) => words),
      );
    return known.get(lotId)!;
  };
  const [last] = await reader
    .select({ id: lot.id, code: lot.code, name: lot.name })
    .from(lot)
    .where(
      and(
        eq(lot.kind, 'run'),
        isNull(lot.undoneSeq),
        eq(lot.origin, 'made'),
        between(lot.at, new Date(now.getTime() - DAY), now),
      ),
    )
    .orderBy(desc(lot.at), desc(lot.seq))
    .limit(1);
  const perJar = await rows<{ materialId: string; name: string; gramsPerJar: number }>(
    reader,
    sql`
    select x.id as "materialId", x.name, (line->>'amount')::float8 as "gramsPerJar" from formula f, jsonb_array_elements(f.data->'lines') line join material x on x.id = (line->>'materialId')::uuid
    where f.formula_id = ${fill.formulaId} and f.version = ${fill.formulaVersion} and line->>'scaleBy' = 'jar' and line->>'amount' is not null and x.kind <> 'packaging'`,
  );
  const packable = (await standing(reader, now)).vessels.filter(({ packable: may }) => may.ok);
  const order: PackingReply['order'] = [];
  for (const vessel of packable)
    order.push({ vesselTag: vessel.vesselTag, name: vessel.name, allergens: await allergensOf(vessel.lotId) });
  return {
    allergens: await allergensOf(fill.id),
    before: last ? { code: last.code, name: last.name, allergens: await allergensOf(last.id) } : null,
    perJar,
    order: byAllergens(order),
  };
}
