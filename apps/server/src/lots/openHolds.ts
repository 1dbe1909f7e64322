import type { HoldRule } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';

export interface OpenHold {
  readonly entryId: string;
  readonly lotId: string;
  readonly rule: HoldRule;
  readonly reason: string;
  readonly placedAt: number;
  readonly causeLot: string | null;
  readonly byRule: boolean;
}

/** Open holds by lot. */
export async function openHolds(reader: Reader, lotIds: readonly string[]): Promise<Map<string, OpenHold[]>> {
  if (lotIds.length === 0) return new Map();
  const found = await rows<{
    entryId: string;
    lotId: string;
    rule: HoldRule;
    reason: string;
    placedAt: Date;
    causeLot: string | null;
    byRule: boolean;
  }>(
    reader,
    sql`
    select h.entry_id as "entryId", h.lot_id as "lotId", h.rule, h.reason, h.placed_at as "placedAt", h.cause_lot as "causeLot", coalesce(j.kind = 'hold.byRule', false) as "byRule"
    from hold h left join journal j on j.entry_id = h.entry_id where h.lifted_at is null and h.lot_id = ${anyOf(lotIds)} order by h.placed_at`,
  );
  return groupBy(
    found.map((row) => ({ ...row, placedAt: new Date(row.placedAt).getTime() })),
    (row) => row.lotId,
  );
}
