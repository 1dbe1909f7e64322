import { sql } from 'drizzle-orm';
import { decideDonor, decideStarterAge, KEPT_BRINE } from '@clear-tally/core';
import { rows, type Reader } from '../db/database.js';
import { house } from '../db/schema/index.js';
import { loadLot, openHold, type LotRow } from './lots.js';
import { houseDay } from './pastDate.js';
import { phPoints } from './readings.js';
import { must, refused } from './refused.js';

/** How many batches of kept brine stand behind a vessel; 0 for one that began wild. */
export async function generationOf(reader: Reader, fill: LotRow, depth = 0): Promise<number> {
  if (!fill.batchId || depth > 20) return 0;
  const starters = await rows<{ id: string; kind: string; generation: number | null }>(reader, sql`
    select l.id, l.kind, l.generation from live_movement m join lot l on l.id = m.from_lot
    where m.to_lot = ${fill.batchId} and m.kind = 'ingredient.add' and (l.kind = 'fill' or l.form = 'keptBrine')`);
  let most = 0;
  for (const starter of starters) most = Math.max(most, starter.kind === 'fill' ? (await generationOf(reader, await loadLot(reader, starter.id, 'fromLotId'), depth + 1)) + 1 : starter.generation ?? 1);
  return most;
}

/** A vessel that gives brine: not held, its pH read and low enough, not too many generations down. */
export async function donorGeneration(reader: Reader, fill: LotRow): Promise<number> {
  const [of] = await reader.select().from(house);
  const donor = { code: fill.code, onHold: await openHold(reader, fill.id), points: (await phPoints(reader, [fill.id])).get(fill.id)!, generation: await generationOf(reader, fill) };
  return must(decideDonor({ donor, acidLimit: of!.acidLimit, mostGenerations: of!.settings.keptBrineGenerations ?? KEPT_BRINE.generations })).generation;
}

/** Kept brine at its use: in date, and every vessel it was taken from still fit to give. */
export async function refuseTiredStarter(reader: Reader, kept: LotRow, at: Date): Promise<void> {
  must(decideStarterAge({ code: kept.code, useBy: kept.useBy, today: await houseDay(reader, at) }));
  const donors = await rows<{ id: string }>(reader, sql`select distinct l.id from live_movement m join lot l on l.id = m.from_lot where m.to_lot = ${kept.id} and l.kind = 'fill'`);
  for (const donor of donors) {
    const fill = await loadLot(reader, donor.id, 'fromLotId');
    const held = await openHold(reader, fill.id);
    if (held) throw refused('lot.onHold', `${kept.code} was taken from ${fill.code}, which is on hold: ${held}. It starts nothing until the hold is lifted.`, { field: 'fromLotId' });
    await donorGeneration(reader, fill);
  }
}
