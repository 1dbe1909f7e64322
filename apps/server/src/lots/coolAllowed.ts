import { effectsOf, rulesInForce } from '@clear-tally/core';
import { and, eq, type SQL, sql } from 'drizzle-orm';
import { anyOf, type Reader } from '../db/database.js';
import { formula } from '../db/schema/stores.js';
import { lot } from '../db/schema/ledger.js';
import { chosenRules } from './house.js';

/**
 * Of these lots those whose jars may stand cool: live ones where the house says so today, or their formula does; and what
 * is dried, which lives no more. Source: handbook 4.1, 4.3.
 */
export async function coolAllowed(reader: Reader, lotIds: readonly string[]): Promise<ReadonlySet<string>> {
  if (lotIds.length === 0) return new Set();
  const chosen = await chosenRules(reader);
  const found = await reader
    .select({ id: lot.id, data: formula.data, dried: sql<boolean>`${dried(sql`${lot.id}`)}` })
    .from(lot)
    .leftJoin(formula, and(eq(formula.formulaId, lot.formulaId), eq(formula.version, lot.formulaVersion)))
    .where(sql`${lot.id} = ${anyOf(lotIds)}`);
  return new Set(
    found
      .filter(
        ({ data, dried: isDried }) => isDried || effectsOf(rulesInForce(chosen, data?.rules)).storage === 'cellar',
      )
      .map(({ id }) => id),
  );
}

/** The lot is a drying, or a run whose jars all come out of one. */
const dried = (id: SQL): SQL => sql`
  exists (select 1 from finish i where i.lot_id = ${id} and i.what = 'drying') or
  coalesce((select bool_and(i.lot_id is not null) from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' left join finish i on i.lot_id = f.id and i.what = 'drying' where m.to_lot = ${id}), false)`;
