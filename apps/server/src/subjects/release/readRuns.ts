import type { Person, RunReply, RunsReply } from '@clear-tally/contract';
import { GAS_WORDS, type GasSays, RUN_CHECK_WORDS, type RunCheckKind, runChecksDue } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { lotByCode } from '../../lots/lotByCode.js';
import { reachOf } from '../../lots/reach.js';
import { shelfOf } from '../../lots/shelfLife.js';
import { packedWith } from '../../lots/packed.js';
import { heatInHouse } from '../../lots/heat.js';
import { holdersOf } from '../../lots/holders.js';
import { conditionsSince, ofEachReadable } from '../../lots/leaving.js';
import { conditionsOf, conditionsOfEach, isOpen } from '../../lots/releasing.js';
import { type JarsOfRun, jarsOf, loadRun, loadRuns, mayLeave, type RunStanding, stretchesIn } from '../../lots/runs.js';
import { openHolds } from '../../lots/openHolds.js';
import { refused } from '../../journal/refused.js';

type Who = Pick<Person, 'id' | 'role'>;

interface Looked {
  readonly runLotId: string;
  readonly what: RunCheckKind | 'ph';
  readonly says: string | null;
  readonly note: string | null;
  readonly by: string;
  readonly at: Date;
}

const count = (jars: readonly JarsOfRun[], inHouse: boolean): number =>
  jars.reduce(
    (sum, { segments }) =>
      sum +
      segments
        .filter(({ where }) => !inHouse || where.kind === 'house')
        .reduce((all, { first, last }) => all + last - first + 1, 0),
    0,
  );

async function lookedAt(reader: Reader, runIds: readonly string[]): Promise<Looked[]> {
  return runIds.length === 0
    ? []
    : rows<Looked>(
        reader,
        sql`
        select c.run_lot_id as "runLotId", c.what, c.says, c.note, p.initials as by, c.at from run_check c join person p on p.id = c.by where c.run_lot_id = any(${sql.param(runIds)}::uuid[])
        union all select r.lot_id, 'ph', null, 'pH ' || round(r.value, 2) || case when r.sample = 'blended' then '' else ', brine only' end, p.initials, r.at from live_reading r join journal j on j.entry_id = r.root_entry_id join person p on p.id = j.by
          where r.kind = 'ph' and r.lot_id = any(${sql.param(runIds)}::uuid[])
        order by at`,
      );
}

function lineOf(
  run: RunStanding,
  known: { jars: readonly JarsOfRun[]; hold: string | null; looked: readonly Looked[]; now: Date },
): RunReply['run'] {
  const made = known.looked.map(({ what, at, says }) => ({
    what,
    at: new Date(at).getTime(),
    says: says as GasSays | null,
  }));
  const inHouse = count(known.jars, true);
  return {
    lotId: run.lotId,
    code: run.code,
    name: run.name,
    packedAt: new Date(run.packedAt).toISOString(),
    packedBy: run.packedByInitials,
    storage: run.storage,
    state: run.state,
    hold: known.hold,
    jars: count(known.jars, false),
    inHouse,
    checks:
      // What stood there before the ledger was looked at before the ledger.
      inHouse === 0 || run.origin === 'beforeLedger'
        ? []
        : runChecksDue({
            run: {
              packedAt: run.packedAt,
              storage: run.storage,
              mixed: run.brine !== 'own' || run.finished,
              tasteAt: run.tasteAt,
            },
            made,
            now: known.now.getTime(),
          }),
  };
}

const runOf = ({ runLotId }: { readonly runLotId: string }): string => runLotId;

/** So many of what waits are looked through condition by condition. */
const MOST_WAITING = 60;

/** What is due on packed runs, without a look at their conditions: for the round. */
export const readLooks = (reader: Reader, by: Who, now: Date): Promise<RunsReply> => readRuns(reader, by, now, false);

/** Packed runs: what waits for its release first, each with how much stands open; then what is out. */
export async function readRuns(reader: Reader, by: Who, now: Date, asking = true): Promise<RunsReply> {
  const runs = await loadRuns(reader);
  const ids = runs.map(({ lotId }) => lotId);
  const jars = await jarsOf(reader, ids);
  const holds = await openHolds(reader, ids);
  const looked = await lookedAt(reader, ids);
  const [jarsBy, lookedBy] = [groupBy(jars, runOf), groupBy(looked, runOf)];
  const lines = runs.map((run) => ({
    run,
    line: lineOf(run, {
      jars: jarsBy.get(run.lotId) ?? [],
      hold: holds.get(run.lotId)?.[0]?.reason ?? null,
      looked: lookedBy.get(run.lotId) ?? [],
      now,
    }),
  }));
  const waiting = lines.filter(({ run, line }) => asking && run.state !== 'released' && line.inHouse > 0);
  const { found: conditions, faults } = await ofEachReadable(
    waiting.slice(0, MOST_WAITING).map(({ run }) => run),
    (asked) => conditionsOfEach(reader, asked, () => ({ id: by.id, isReviewer: true, now })),
  );
  const reply = lines.map(({ line }): RunsReply['runs'][number] => ({
    ...line,
    open: faults.has(line.lotId) ? 1 : (conditions.get(line.lotId) ?? []).filter(isOpen).length,
  }));
  return { now: now.toISOString(), runs: reply };
}

/** One run: its conditions, signatures, what it was looked at for, where its jars are, and who has some. */
export async function readRun(reader: Reader, code: string, by: Who, now: Date): Promise<RunReply> {
  const of = await lotByCode(reader, code);
  if (of.kind !== 'run')
    throw refused('lot.wrongKind', `${of.code} is no packing run. Jars are released run by run.`, { field: 'code' });
  const run = await loadRun(reader, of);
  const jars = await jarsOf(reader, [run.lotId]);
  const looked = await lookedAt(reader, [run.lotId]);
  const holds = await openHolds(reader, [run.lotId]);
  const isReviewer = by.role === 'owner';
  const isReleased = run.state === 'released';
  const conditions = isReleased
    ? (await conditionsSince(reader, [run], now)).get(run.lotId)!
    : await conditionsOf(reader, run, { id: by.id, isReviewer, now });
  const since = isReleased ? conditions.filter(isOpen) : [];
  const siblings = (await reachOf(reader, of)).taken.filter(({ kind }) => kind === 'run');
  const marks = await rows<{
    at: Date;
    by: string;
    what: 'released' | 'withdrawn';
    reason: string | null;
    own: boolean;
    excuses: Record<string, string>;
  }>(
    reader,
    sql`select j.recorded_at as at, p.initials as by, m.what, m.reason, m.own, m.excuses from run_mark m join journal j on j.seq = m.seq join person p on p.id = m.by where m.run_lot_id = ${run.lotId} order by m.seq`,
  );
  const vessels = await rows<{ code: string; vesselTag: string }>(
    reader,
    sql`
    select distinct f.code, v.tag as "vesselTag" from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' join vessel v on v.id = f.vessel_id where m.to_lot = ${run.lotId} order by 1`,
  );
  return {
    openSince: since.map(({ words, now: facts }) => `${words}: ${facts}`),
    run: lineOf(run, { jars, hold: holds.get(run.lotId)?.[0]?.reason ?? null, looked, now }),
    conditions,
    shelf: await shelfOf(reader, of),
    packing: await packedWith(reader, run.lotId, jars),
    closing: { later: run.closeLater, done: run.capped },
    leaving:
      run.storage === 'ambient' ? Math.min((await heatInHouse(reader, run)).met ?? 0, mayLeave(jars)) : mayLeave(jars),
    maySign: isReviewer && conditions.every(({ mayExcuse, state }) => mayExcuse || state !== 'open'),
    signatures: marks.map(({ at, excuses, ...mark }) => ({
      ...mark,
      at: new Date(at).toISOString(),
      excuses: Object.entries(excuses).map(([key, reason]) => ({
        words: conditions.find((one) => one.key === key)?.words ?? key,
        reason,
      })),
    })),
    made: looked
      .map(({ at, by: who, what, says, note }) => ({
        at: new Date(at).toISOString(),
        by: who,
        what: what === 'ph' ? 'pH of a jar' : RUN_CHECK_WORDS[what],
        says:
          says === null
            ? ''
            : (GAS_WORDS[says as GasSays] ?? (says === 'fine' ? 'as it should be' : 'not as it should be')),
        note,
      }))
      .reverse(),
    jars: await stretchesIn(reader, run.code, jars),
    holders: await holdersOf(reader, [run, ...siblings]),
    vessels,
  };
}
