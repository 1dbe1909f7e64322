import { type FinishStation, finishSheet, type FinishStep, isReadItself } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { driedOf, type FinishOf } from './finishes.js';
import { type StepStanding, standingSteps } from './stepMarks.js';
import { loadWatched } from './watched.js';

/** The sheet of a finish as it stands: who did what, and what each step still lacks. */
export async function readFinishSheet(
  reader: Reader,
  lotId: string,
  { what }: FinishOf,
  now: Date,
): Promise<(FinishStep & StepStanding)[]> {
  const [made] = await rows<{
    brines: number;
    poured: boolean;
    sour: boolean;
    thick: boolean;
    sweet: boolean;
    off: boolean;
  }>(
    reader,
    sql`
    select (select count(*)::int from entry_lot e join live_movement m on m.seq = e.seq and m.kind = 'finish.brine' where e.lot_id = l.id) as brines,
      exists (select 1 from live_movement m join lot f on f.id = m.from_lot where m.to_lot = l.id and (m.kind = 'finish.brineBack' or f.form in ('repackBrine', 'boiledBrine', 'keptBrine'))) as poured,
      exists (select 1 from live_movement m join lot f on f.id = m.from_lot join material x on x.id = f.material_id where m.to_lot = l.id and x.details->>'standsFor' = 'vinegar') as sour,
      exists (select 1 from live_movement m join lot f on f.id = m.from_lot join material x on x.id = f.material_id where m.to_lot = l.id and x.details->>'standsFor' = 'thickener') as thick,
      exists (select 1 from live_movement m where m.to_lot = l.id and m.kind = 'finish.sweet') as sweet,
      exists (select 1 from live_movement m where m.kind = 'finish.juice' and m.from_lot = l.id) as off
    from lot l where l.id = ${lotId}`,
  );
  const [watched] = await loadWatched(reader, now, [lotId]);
  const pair = watched?.gate.find(({ key }) => key === 'pair');
  const dried = what === 'drying' ? await driedOf(reader, lotId) : null;
  const lacks: Partial<Record<FinishStation, string | null>> = {
    brine: made!.brines > 0 || made!.poured ? null : 'no brine is ready',
    pour: made!.poured ? null : 'nothing is poured on it',
    juice: made!.off ? null : 'the juice is not weighed',
    syrup: made!.sweet ? null : 'nothing covers it yet',
    dry: dried ? null : 'it is not dried by weight',
    read: isReadItself(what) && pair?.state !== 'met' ? `its pH is ${pair?.now ?? 'not read'}` : null,
  };
  const done: Partial<Record<FinishStation, boolean>> = {
    drain: true,
    brine: made!.brines > 0 || made!.poured,
    pour: made!.poured,
    juice: made!.off,
    vinegar: made!.sour,
    thicken: made!.thick,
    syrup: made!.sweet,
    dry: dried !== null,
    read: pair?.state === 'met',
  };
  return await standingSteps(reader, lotId, finishSheet(what), (step) => ({
    done: done[step.key] === true,
    open: lacks[step.key] ?? null,
  }));
}
