import {
  compareHeat,
  decideShelfStable,
  decideStorage,
  heatedJars,
  type HeatRow,
  heatStands,
  isoDay,
  type JarHeat,
  type JarHeatSegment,
  type Outcome,
  phStanding,
} from '@clear-tally/core';
import { desc, eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { heatLoad, heatProcess, sealTest } from '../db/schema/heat.js';
import { coolAllowed } from './coolAllowed.js';
import { loadHouse } from './house.js';
import { driedUnmeasured, lowAcidIn, restartsIn } from './finishes.js';
import { phPoints } from './readings.js';
import { jarsOf, type RunStanding } from './runs.js';
import { walkBack } from './walk.js';

export type ProcessRow = typeof heatProcess.$inferSelect;
type LoadRow = typeof heatLoad.$inferSelect;

/** A load against its process, by all that is known now. */
export interface HeatedLoad {
  readonly load: LoadRow;
  readonly process: ProcessRow;
  readonly rows: readonly HeatRow[];
  readonly stands: ReturnType<typeof heatStands>;
  readonly failed: readonly number[];
  readonly looked: boolean;
}

export interface HeatOfRun {
  readonly loads: readonly HeatedLoad[];
  /** Every jar of the run by its heat. */
  readonly jars: readonly JarHeatSegment[];
}

/** Processes that may be used for a formula on a day. */
export async function processesFor(reader: Reader, formulaId: string | null, at: number): Promise<ProcessRow[]> {
  const { timeZone } = await loadHouse(reader);
  const day = isoDay(at, timeZone);
  const all = await reader.select().from(heatProcess).orderBy(desc(heatProcess.seq));
  return all.filter(
    (one) =>
      one.ended === null &&
      (one.formulaId === null || one.formulaId === formulaId) &&
      (one.validUntil === null || one.validUntil >= day),
  );
}

/** Whether what comes of these vessels may be kept so; asked at packing and whenever a run goes somewhere else. */
export async function mayBeKept(
  reader: Reader,
  storage: 'cold' | 'cellar' | 'ambient',
  of: {
    readonly formulaId: string | null;
    readonly vessels: readonly string[];
    readonly jars?: string;
    readonly at: number;
  },
): Promise<Outcome<void>> {
  const processes = storage === 'ambient' ? await processesFor(reader, of.formulaId, of.at) : [];
  const lots = of.jars ? [...of.vessels, ...(await vesselsOf(reader, of.jars))] : of.vessels;
  const kept = decideStorage({
    storage,
    processOnFile: processes.length > 0,
    restarts: await restartsIn(reader, lots),
    driedUnmeasured: await driedUnmeasured(reader, lots),
    coolAllowed: await allCool(reader, of.jars ? [of.jars] : of.vessels),
  });
  if (!kept.ok || storage !== 'ambient') return kept;
  return decideShelfStable({
    ph: await phBefore(
      reader,
      of.jars ? { vessels: await vesselsOf(reader, of.jars), jars: of.jars } : { vessels: of.vessels },
      of.at,
    ),
    maxPh: Math.max(...processes.map(({ limits }) => limits.maxPh)),
    oils: await oilsIn(reader, of.jars ? [of.jars] : of.vessels),
    lowAcid: await lowAcidIn(reader, lots),
  });
}

const allCool = async (reader: Reader, lotIds: readonly string[]): Promise<boolean> => {
  const allowed = await coolAllowed(reader, lotIds);
  return lotIds.every((id) => allowed.has(id));
};

/**
 * The highest pH these lots stand at before a moment, as every page judges it; null where one of the vessels has no
 * blended reading by a fit meter. What was read in jars counts beside that.
 */
async function phBefore(
  reader: Reader,
  of: { readonly vessels: readonly string[]; readonly jars?: string },
  at: number,
): Promise<number | null> {
  const points = await phPoints(reader, [...of.vessels, ...(of.jars ? [of.jars] : [])], { until: new Date(at) });
  const standing = (id: string) => phStanding(points.get(id) ?? []);
  const read = of.vessels.map(standing);
  const jars = of.jars ? standing(of.jars) : null;
  if (read.some(({ counting }) => counting === null) || (read.length === 0 && !jars?.counting)) return null;
  const all = [...read, ...(jars ? [jars] : [])].flatMap(({ strict }) => strict ?? []);
  return all.length > 0 ? Math.max(...all) : null;
}

async function oilsIn(reader: Reader, lotIds: readonly string[]): Promise<string[]> {
  const found = new Set<string>();
  for (const id of lotIds)
    for (const { name } of await rows<{ name: string }>(
      reader,
      sql`
      select distinct x.name from (${walkBack(id)}) w join lot l on l.id = w."from" join material x on x.id = l.material_id
      where x.details->>'standsFor' = 'oil'`,
    ))
      found.add(name);
  return [...found];
}

/** Of the vessels a run was packed from. */
const vesselsOf = async (reader: Reader, runLotId: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      reader,
      sql`select distinct f.id from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.to_lot = ${runLotId}`,
    )
  ).map(({ id }) => id);

/** Every load of a run against its process, and how each jar stands by it. */
export async function heatOf(reader: Reader, run: Pick<RunStanding, 'lotId'>): Promise<HeatOfRun> {
  const ranges = await jarsOf(reader, [run.lotId]);
  const serials = { first: 1, last: Math.max(1, ...ranges.map(({ last }) => last)) };
  const found = await reader
    .select()
    .from(heatLoad)
    .innerJoin(heatProcess, eq(heatProcess.id, heatLoad.processId))
    .where(eq(heatLoad.runLotId, run.lotId))
    .orderBy(heatLoad.at, heatLoad.seq);
  const tests = groupBy(
    await reader
      .select()
      .from(sealTest)
      .where(sql`${sealTest.loadId} in (select id from heat_load where run_lot_id = ${run.lotId})`)
      .orderBy(sealTest.at, sealTest.seq),
    ({ loadId }) => loadId,
  );
  const { timeZone } = await loadHouse(reader);
  const clockOf = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' });
  const vessels = found.length > 0 ? await vesselsOf(reader, run.lotId) : [];
  const loads: HeatedLoad[] = [];
  for (const { heat_load: load, heat_process: process } of found) {
    const startedAt = Date.parse(load.record.startedAt);
    const looks = tests.get(load.id) ?? [];
    const seals = looks.at(-1);
    const lines = compareHeat(
      process.limits,
      { ...load.record, startedAt, first: load.firstSerial, last: load.lastSerial },
      {
        ph: await phBefore(reader, { vessels, jars: run.lotId }, Math.max(startedAt, load.at.getTime())),
        largestMl: Math.max(
          ...ranges
            .filter(({ first, last }) => first <= load.lastSerial && last >= load.firstSerial)
            .map(({ sizeMl }) => sizeMl),
        ),
        critical: process.critical,
        valid: process.validUntil === null ? null : isoDay(startedAt, timeZone) <= process.validUntil,
        seals: seals ? { at: seals.at.getTime(), failed: seals.failed } : null,
      },
      (minute) => clockOf.format(startedAt + minute * 60_000),
    );
    // A seal that failed once is not tight because a later look did not name it.
    const failed = [...new Set(looks.flatMap((look) => look.failed))].sort((a, b) => a - b);
    loads.push({ load, process, rows: lines, stands: heatStands(lines), failed, looked: looks.length > 0 });
  }
  return {
    loads,
    jars: heatedJars(
      serials,
      loads.map(({ load, stands, failed }) => ({
        first: load.firstSerial,
        last: load.lastSerial,
        at: load.at.getTime(),
        order: load.seq,
        stands,
        failed,
      })),
    ),
  };
}

/** Jars in the house by their heat: how many of each. */
export async function heatInHouse(
  reader: Reader,
  run: Pick<RunStanding, 'lotId'>,
): Promise<Partial<Record<JarHeat, number>>> {
  const { jars } = await heatOf(reader, run);
  const counted: Partial<Record<JarHeat, number>> = {};
  for (const { segments } of await jarsOf(reader, [run.lotId]))
    for (const { first, last, where } of segments) {
      if (where.kind !== 'house') continue;
      for (const one of jars) {
        const count = Math.min(last, one.last) - Math.max(first, one.first) + 1;
        if (count > 0) counted[one.heat] = (counted[one.heat] ?? 0) + count;
      }
    }
  return counted;
}
