import {
  type AheadCondition,
  ALLERGENS,
  releaseAhead,
  type NamedMaterial,
  type ReleaseCondition,
  releaseConditions,
  type ReleaseInput,
  effectsOf,
  formatGrams,
  localDaysBetween,
  type GasSays,
  type ReleaseKey,
  undecidedAllergens,
} from '@clear-tally/core';
import { and, desc, eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { runCheck, runMark } from '../db/schema/jars.js';
import { batchState } from './batchSalt.js';
import { restartsIn, takenFrom } from './finishes.js';
import { heatInHouse, processesFor } from './heat.js';
import { chosenRules, customerNames, loadHouse } from './house.js';
import { loadLot } from './lots.js';
import { phPoints } from './readings.js';
import { jarsOf, type RunStanding } from './runs.js';
import { tallyOf } from './tallyOf.js';
import { walkBack, walkForward } from './walk.js';
import { vesselsBehind } from './vesselsBehind.js';
import type { Watched } from './watchedVessel.js';
import { hasOtherReviewer } from './whoIsHere.js';
import { loadWatched } from './watched.js';
import { openHolds } from './openHolds.js';

/**
 * What stands between a run and its release, by all that is known now: its vessels as they were at packing, holds up and
 * down the line, its jars since. The one list that pages show and the signature asks for.
 */
export async function conditionsOf(
  reader: Reader,
  run: RunStanding,
  by: {
    readonly id: string;
    readonly isReviewer: boolean;
    readonly now: Date;
    readonly excuses?: Partial<Record<ReleaseKey, string>>;
  },
): Promise<ReleaseCondition[]> {
  const house = await loadHouse(reader);
  const rules = await chosenRules(reader);
  const lot = await loadLot(reader, run.lotId, 'runLotId', ['run']);
  const watched = await vesselsBehind(reader, run.lotId, new Date(run.packedAt));
  const phs = ((await phPoints(reader, [run.lotId])).get(run.lotId) ?? []).filter(({ at }) => at >= run.packedAt);
  const gas = await reader
    .select({ at: runCheck.at, says: sql<GasSays>`${runCheck.says}` })
    .from(runCheck)
    .where(and(eq(runCheck.runLotId, run.lotId), eq(runCheck.what, 'gas')))
    .orderBy(runCheck.at, runCheck.seq);
  return releaseConditions({
    now: by.now.getTime(),
    packedAt: run.packedAt,
    acidLimit: house.acidLimit,
    vessels: watched.map(vesselSays),
    beforeLedger: run.origin === 'beforeLedger',
    holds: await holdsAlong(reader, run.lotId),
    salt: await saltSays(reader, run.origin, [...new Set([run.batchId, ...watched.map(({ batchId }) => batchId)])]),
    brine: run.finished ? 'mixed' : run.brine,
    restarts: await restartsIn(
      reader,
      watched.map(({ lotId }) => lotId),
    ),
    closing: { later: run.closeLater, done: run.capped },
    storage: run.storage,
    phs,
    gas: gas.map(({ at, says }) => ({ at: new Date(at).getTime(), says })),
    heat:
      run.storage === 'ambient'
        ? {
            onFile: (await processesFor(reader, lot.formulaId, run.packedAt)).length > 0,
            jars: await heatInHouse(reader, run),
          }
        : { onFile: false, jars: {} },
    labelLacks: await labelLacks(reader, run),
    tally: await tallyOf(reader, lot),
    packedBy: [run.packedBy],
    reviewer: { id: by.id, isReviewer: by.isReviewer, isOnlyOne: !(await hasOtherReviewer(reader, by.id)) },
    rule: effectsOf(rules).releasedBy,
    nightsSince: localDaysBetween(run.packedAt, by.now.getTime(), house.timeZone),
    excuses: by.excuses ?? {},
  });
}

const vesselSays = ({ code, gate, due }: Watched): ReleaseInput['vessels'][number] => ({
  code,
  gate,
  missed: missedChecks(due),
});

/** Checks that were due and not made, as they are said: "pH 2 times". */
export const missedChecks = (due: Watched['due']): string[] =>
  due
    .filter(({ missed, state }) => missed > 0 || state === 'late')
    .map(({ name, missed }) => (missed > 1 ? `${name} ${missed} times` : name));

/** The same list as these vessels stand now, before anything is packed from them: what is met, open, or seen later. */
export async function conditionsAhead(
  reader: Reader,
  fillIds: readonly string[],
  now: Date,
): Promise<AheadCondition[]> {
  const behind = await takenFrom(reader, fillIds);
  const own = await loadWatched(reader, now, fillIds, { beforeSeq: Number.MAX_SAFE_INTEGER, evenClosed: true });
  const before: Watched[] = [];
  for (const { lotId, at } of behind)
    before.push(...(await loadWatched(reader, at, [lotId], { beforeSeq: Number.MAX_SAFE_INTEGER, evenClosed: true })));
  const watched = [...own, ...before];
  const origin = own.some((vessel) => vessel.origin === 'beforeLedger') ? 'beforeLedger' : 'made';
  const holds: ReleaseInput['holds'][number][] = [];
  const lacks: string[] = [];
  for (const id of fillIds) {
    holds.push(...(await holdsAlong(reader, id)));
    lacks.push(...(await labelLacks(reader, { lotId: id, origin })));
  }
  const { acidLimit } = await loadHouse(reader);
  return releaseAhead({
    now: now.getTime(),
    acidLimit,
    vessels: watched.map(vesselSays),
    beforeLedger: origin === 'beforeLedger',
    holds: holds.filter(({ code }, i) => holds.findIndex((one) => one.code === code) === i),
    salt: await saltSays(reader, origin, [...new Set(watched.map(({ batchId }) => batchId))]),
    restarts: await restartsIn(reader, fillIds),
    labelLacks: [...new Set(lacks)],
  });
}

/** Open holds on a run, on everything that went into it, and on what came of it. */
export async function holdsAlong(reader: Reader, runLotId: string): Promise<ReleaseInput['holds'][number][]> {
  const along = await rows<{ id: string; code: string }>(
    reader,
    sql`
    select distinct l.id, l.code from lot l where l.id = ${runLotId}
      or l.id in (select w."from" from (${walkBack(runLotId)}) w) or l.id in (select w."to" from (${walkForward(runLotId)}) w where w."to" is not null)`,
  );
  const codes = new Map(along.map(({ id, code }) => [id, code]));
  const open = await openHolds(reader, [...codes.keys()]);
  return [...open].flatMap(([id, standing]) => standing.map(({ reason }) => ({ code: codes.get(id)!, reason })));
}

async function saltSays(
  reader: Reader,
  origin: RunStanding['origin'],
  batchIds: readonly string[],
): Promise<ReleaseInput['salt']> {
  if (origin === 'beforeLedger') return { met: false, words: 'from before these records: not known' };
  const all: ReleaseInput['salt'][] = [];
  for (const id of batchIds) all.push(await saltOfBatch(reader, id));
  return { met: all.every(({ met }) => met), words: all.map(({ words }) => words).join('; ') };
}

async function saltOfBatch(reader: Reader, batchId: string): Promise<ReleaseInput['salt']> {
  const batch = await loadLot(reader, batchId, 'runLotId', ['batch']);
  if (!batch.formulaId) return { met: false, words: 'no formula says how much' };
  const { saltInGrams, targetGrams, tolerance = 0.03, acceptedReason } = await batchState(reader, batch);
  const words = `${formatGrams(saltInGrams)} of ${formatGrams(targetGrams)}`;
  const inside = Math.abs(saltInGrams - targetGrams) <= targetGrams * tolerance + 0.05;
  return {
    met: inside || acceptedReason !== null,
    words: acceptedReason && !inside ? `${words}, accepted: ${acceptedReason}` : words,
  };
}

/** What nobody has said yet of what went in, and a label would have to say. */
export async function labelLacks(reader: Reader, run: Pick<RunStanding, 'lotId' | 'origin'>): Promise<string[]> {
  if (run.origin === 'beforeLedger') return ['from before these records: what went in is not known'];
  const found = await rows<Pick<NamedMaterial, 'name' | 'allergens'> & { details: Partial<NamedMaterial> }>(
    reader,
    sql`
    select distinct x.name, x.allergens, x.details from (${walkBack(run.lotId)}) w join lot l on l.id = w."from" join material x on x.id = l.material_id`,
  );
  return found.flatMap(({ details, ...material }) =>
    undecidedAllergens({ ...details, ...material }).map(
      (key) => `${material.name}: ${ALLERGENS[key].words}, yes or no?`,
    ),
  );
}

/** Why nothing of a run leaves, for who picks jars; null: it may. */
export async function whyNotOut(
  reader: Reader,
  run: RunStanding,
): Promise<{ code: 'jar.notReleased' | 'lot.onHold'; words: string } | null> {
  const held = await holdsAlong(reader, run.lotId);
  if (held[0]) return { code: 'lot.onHold', words: `${held[0].code} is on hold: ${held[0].reason}.` };
  if (run.state === 'waits') return { code: 'jar.notReleased', words: `${run.code} is not released.` };
  if (run.state === 'withdrawn') return { code: 'jar.notReleased', words: `The release of ${run.code} was withdrawn.` };
  return null;
}

/** What stands open of a released run by what is known now: a jar read above the limit since, a reading put right. */
export async function openSince(reader: Reader, run: RunStanding, now: Date): Promise<ReleaseCondition[]> {
  const [mark] = await reader
    .select({ excuses: runMark.excuses })
    .from(runMark)
    .where(and(eq(runMark.runLotId, run.lotId), eq(runMark.what, 'released')))
    .orderBy(desc(runMark.at), desc(runMark.seq))
    .limit(1);
  const conditions = await conditionsOf(reader, run, { id: '', isReviewer: true, now, excuses: mark?.excuses ?? {} });
  return conditions.filter(({ key, state }) => state === 'open' && key !== 'review');
}

/** Who has jars of these runs now, how many of each. */
export async function holdersOf(reader: Reader, runs: readonly { readonly lotId: string; readonly code: string }[]) {
  const codes = new Map(runs.map(({ lotId, code }) => [lotId, code]));
  const names = await customerNames(reader);
  const found = new Map<string, { customerId: string; name: string; run: string; count: number }>();
  for (const { runLotId, segments } of await jarsOf(reader, [...codes.keys()]))
    for (const { where, first, last } of segments) {
      if (where.kind !== 'customer') continue;
      const key = `${where.customerId} ${runLotId}`;
      const before = found.get(key)?.count ?? 0;
      found.set(key, {
        customerId: where.customerId,
        name: names.get(where.customerId) ?? '',
        run: codes.get(runLotId)!,
        count: before + last - first + 1,
      });
    }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name, 'en') || a.run.localeCompare(b.run, 'en'));
}
