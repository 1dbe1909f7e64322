import {
  type AheadCondition,
  releaseAhead,
  type ReleaseCondition,
  releaseConditions,
  type ReleaseInput,
  effectsOf,
  formatGrams,
  hasItsSalt,
  localDaysBetween,
  type GasSays,
  type ReleaseKey,
} from '@clear-tally/core';
import { and, eq, sql } from 'drizzle-orm';
import { anyOf, type Reader } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { runCheck } from '../db/schema/jars.js';
import { lot } from '../db/schema/ledger.js';
import { acidLimitsOf } from './acidLimits.js';
import { holdsAlong, labelLacksOf } from './alongLots.js';
import { batchStates } from './batchSalt.js';
import { coolAllowed } from './coolAllowed.js';
import { restartsIn, restartsOf, takenFrom } from './finishes.js';
import { heatInHouse, processesFor } from './heat.js';
import { chosenRules, loadHouse } from './house.js';
import { phPoints } from './readings.js';
import type { RunStanding } from './runs.js';
import { talliesOf } from './tallyOf.js';
import { vesselsBehind } from './vesselsBehind.js';
import { loadPast } from './watched.js';
import type { Watched } from './watchedVessel.js';
import { hasOtherReviewer } from './whoIsHere.js';

/** For whom it is asked, and what is excused by a signature. */
interface Asking {
  readonly id: string;
  readonly isReviewer: boolean;
  readonly now: Date;
  readonly excuses?: Partial<Record<ReleaseKey, string>>;
}

/**
 * What stands between a run and its release, by all that is known now: its vessels as they were at packing, holds up and
 * down the line, its jars since. The one list that pages show and the signature asks for.
 */
export const conditionsOf = async (reader: Reader, run: RunStanding, by: Asking): Promise<ReleaseCondition[]> =>
  (await conditionsOfEach(reader, [run], () => by)).get(run.lotId)!;

/** The same of many runs: what all of them need is read once for all. */
export async function conditionsOfEach(
  reader: Reader,
  runs: readonly RunStanding[],
  asking: (run: RunStanding) => Asking,
): Promise<Map<string, ReleaseCondition[]>> {
  const ids = runs.map(({ lotId }) => lotId);
  if (ids.length === 0) return new Map();
  const house = await loadHouse(reader);
  const limits = await acidLimitsOf(reader, ids);
  const cool = await coolAllowed(reader, ids);
  const { releasedBy } = effectsOf(await chosenRules(reader));
  const behind = await vesselsBehind(
    reader,
    runs.map(({ lotId, packedAt }) => ({ lotId, packedAt: new Date(packedAt) })),
  );
  const phs = await phPoints(reader, ids);
  const gas = await gasOf(reader, ids);
  const holds = await holdsAlong(reader, ids);
  const salt = await saltOfBatches(reader, [
    ...runs.map(({ batchId }) => batchId),
    ...[...behind.values()].flat().map(({ batchId }) => batchId),
  ]);
  const restarts = await restartsOf(reader, [...new Set([...behind.values()].flat().map(({ lotId }) => lotId))]);
  const lacks = await labelLacksOf(reader, runs);
  const tallies = await talliesOf(
    reader,
    await reader
      .select()
      .from(lot)
      .where(sql`${lot.id} = ${anyOf(ids)}`),
  );
  const found = new Map<string, ReleaseCondition[]>();
  for (const run of runs) {
    const { lotId, batchId, origin, packedAt } = run;
    const by = asking(run);
    const watched = behind.get(lotId)!;
    const conditions = releaseConditions({
      now: by.now.getTime(),
      packedAt,
      acidLimit: limits.get(lotId)!,
      vessels: watched.map(vesselSays),
      beforeLedger: origin === 'beforeLedger',
      holds: holds.get(lotId)!,
      salt: saltSays(salt, origin, [batchId, ...watched.map((vessel) => vessel.batchId)]),
      brine: run.finished ? 'mixed' : run.brine,
      readItself: run.readItself,
      coolAllowed: cool.has(lotId),
      restarts: namesOf(
        restarts,
        watched.map((vessel) => vessel.lotId),
      ),
      closing: { later: run.closeLater, done: run.capped },
      storage: run.storage,
      phs: phs.get(lotId)!.filter(({ at }) => at >= packedAt),
      gas: gas.get(lotId) ?? [],
      heat: await heatSays(reader, run),
      labelLacks: lacks.get(lotId)!,
      tally: tallies.get(lotId)!,
      packedBy: [run.packedBy],
      reviewer: { id: by.id, isReviewer: by.isReviewer, isOnlyOne: !(await hasOtherReviewer(reader, by.id)) },
      rule: releasedBy,
      nightsSince: localDaysBetween(packedAt, by.now.getTime(), house.timeZone),
      excuses: by.excuses ?? {},
    });
    found.set(lotId, conditions);
  }
  return found;
}

async function gasOf(reader: Reader, runIds: readonly string[]) {
  const found = await reader
    .select({ runLotId: runCheck.runLotId, at: runCheck.at, says: sql<GasSays>`${runCheck.says}` })
    .from(runCheck)
    .where(and(sql`${runCheck.runLotId} = ${anyOf(runIds)}`, eq(runCheck.what, 'gas')))
    .orderBy(runCheck.at, runCheck.seq);
  return groupBy(
    found.map((row) => ({ ...row, at: row.at.getTime() })),
    ({ runLotId }) => runLotId,
  );
}

async function heatSays(reader: Reader, run: RunStanding): Promise<ReleaseInput['heat']> {
  return run.storage === 'ambient'
    ? {
        onFile: (await processesFor(reader, run.formulaId, run.packedAt)).length > 0,
        jars: await heatInHouse(reader, run),
      }
    : { onFile: false, jars: {} };
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
  const own = await loadPast(
    reader,
    fillIds.map((lotId) => ({ lotId, at: now, evenClosed: true })),
  );
  const before = await loadPast(
    reader,
    behind.map(({ lotId, at }) => ({ lotId, at, evenClosed: true })),
  );
  const watched = [...own, ...before];
  const origin = own.some((vessel) => vessel.origin === 'beforeLedger') ? 'beforeLedger' : 'made';
  const holds = [...(await holdsAlong(reader, fillIds)).values()].flat();
  const lacks = await labelLacksOf(
    reader,
    fillIds.map((lotId) => ({ lotId, origin })),
  );
  const batchIds = watched.map(({ batchId }) => batchId);
  const acidLimit = Math.min(...(await acidLimitsOf(reader, fillIds)).values());
  return releaseAhead({
    now: now.getTime(),
    acidLimit,
    vessels: watched.map(vesselSays),
    beforeLedger: origin === 'beforeLedger',
    holds: holds.filter(({ code }, i) => holds.findIndex((one) => one.code === code) === i),
    salt: saltSays(await saltOfBatches(reader, batchIds), origin, batchIds),
    restarts: await restartsIn(reader, fillIds),
    labelLacks: [...new Set([...lacks.values()].flat())],
  });
}

/** Once each, in the order of the alphabet. */
const namesOf = (restarts: ReadonlyMap<string, readonly string[]>, lotIds: readonly string[]): string[] =>
  [...new Set(lotIds.flatMap((id) => restarts.get(id) ?? []))].sort();

type SaltSays = ReleaseInput['salt'];

function saltSays(
  salt: ReadonlyMap<string, SaltSays>,
  origin: RunStanding['origin'],
  batchIds: readonly string[],
): SaltSays {
  if (origin === 'beforeLedger') return { met: false, words: 'from before these records: not known' };
  const all = [...new Set(batchIds)].map((id) => salt.get(id) ?? { met: false, words: 'no formula says how much' });
  return { met: all.every(({ met }) => met), words: all.map(({ words }) => words).join('; ') };
}

/** Of each batch that has a formula. */
async function saltOfBatches(reader: Reader, batchIds: readonly string[]): Promise<Map<string, SaltSays>> {
  const batches = await reader
    .select()
    .from(lot)
    .where(sql`${lot.id} = ${anyOf([...new Set(batchIds)])}`);
  return new Map(
    [...(await batchStates(reader, batches))].map(([id, state]) => {
      const { saltInGrams: saltGrams, targetGrams, tolerance, acceptedReason } = state;
      const words = `${formatGrams(saltGrams)} of ${formatGrams(targetGrams)}`;
      const salt = { saltGrams, targetGrams, tolerance };
      const inside = hasItsSalt({ ...salt, acceptedReason: null });
      return [
        id,
        {
          met: hasItsSalt({ ...salt, acceptedReason }),
          words: acceptedReason && !inside ? `${words}, accepted: ${acceptedReason}` : words,
        },
      ];
    }),
  );
}

/** Open beside the signature itself. */
export const isOpen = ({ key, state }: ReleaseCondition): boolean => state === 'open' && key !== 'review';
