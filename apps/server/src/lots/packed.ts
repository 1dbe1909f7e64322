import type { RunReply } from '@clear-tally/contract';
import { fillWeights } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { packingNote } from '../db/schema/packing.js';
import type { JarsOfRun } from './runs.js';

/** What stood beside the jars of a run when they were packed: weights, closures by lot, what is retained. */
export async function packedWith(
  reader: Reader,
  runLotId: string,
  jars: readonly JarsOfRun[],
): Promise<RunReply['packing']> {
  const [note] = await reader.select().from(packingNote).where(eq(packingNote.runLotId, runLotId));
  const closures = await rows<RunReply['packing']['closures'][number]>(
    reader,
    sql`
    select c.first_serial as first, c.last_serial as last, l.code, l.name, l.supplier_lot_code as theirs from closure_lot c join lot l on l.id = c.lot_id where c.run_lot_id = ${runLotId} order by l.name, c.first_serial`,
  );
  const retained = await rows<{ first: number; last: number; place: string; tasteAt: number[] }>(
    reader,
    sql`
    select t.first_serial as first, t.last_serial as last, r.name as place, (select array_agg((extract(epoch from d) * 1000)::float8 order by d) from unnest(t.taste_at) d) as "tasteAt"
    from retained_jar t join room r on r.id = t.room_id where t.run_lot_id = ${runLotId}`,
  );
  return {
    cleared: note?.cleared ?? false,
    weights: (note?.weights ?? []).flatMap(({ sizeMl, grams }) => {
      const netGrams = jars.find((one) => one.sizeMl === sizeMl)?.netGrams;
      if (netGrams === undefined) return [];
      const { farShort: _, ...says } = fillWeights({ netGrams, sampled: grams });
      return [{ sizeMl, netGrams, ...says }];
    }),
    closures,
    retained: retained.map(({ first, last, place, tasteAt }) => ({
      first,
      last,
      place,
      tasteAt: tasteAt.map((at) => new Date(at).toISOString()),
      left: inHouse(jars, first, last),
    })),
  };
}

const inHouse = (jars: readonly JarsOfRun[], first: number, last: number): number =>
  jars
    .flatMap(({ segments }) => segments)
    .filter(({ where }) => where.kind === 'house')
    .reduce((sum, one) => sum + Math.max(0, Math.min(last, one.last) - Math.max(first, one.first) + 1), 0);
