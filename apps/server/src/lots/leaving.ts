import type { ReleaseCondition } from '@clear-tally/core';
import { and, desc, eq, sql } from 'drizzle-orm';
import { anyOf, type Reader } from '../db/database.js';
import { person } from '../db/schema/house.js';
import { runMark } from '../db/schema/jars.js';
import { Refused } from '../journal/refused.js';
import { holdsAlong } from './alongLots.js';
import { conditionsOfEach, isOpen } from './releasing.js';
import type { RunStanding } from './runs.js';

/** Why nothing of a run leaves. */
interface KeptIn {
  readonly code: 'jar.notReleased' | 'lot.onHold';
  readonly words: string;
}

/** Of each of these runs that may not leave why, for who picks jars. */
export async function whyNotOut(reader: Reader, runs: readonly RunStanding[]): Promise<Map<string, KeptIn>> {
  const held = await holdsAlong(
    reader,
    runs.map(({ lotId }) => lotId),
  );
  return new Map(
    runs.flatMap((run): [string, KeptIn][] => {
      const [hold] = held.get(run.lotId)!;
      if (hold) return [[run.lotId, { code: 'lot.onHold', words: `${hold.code} is on hold: ${hold.reason}.` }]];
      const stands = STATE_WORDS[run.state]?.(run.code);
      return stands ? [[run.lotId, { code: 'jar.notReleased', words: stands }]] : [];
    }),
  );
}

const STATE_WORDS: Readonly<Record<RunStanding['state'], ((code: string) => string) | null>> = {
  released: null,
  waits: (code) => `${code} is not released.`,
  withdrawn: (code) => `The release of ${code} was withdrawn.`,
};

/**
 * The conditions of released runs as they stand by what is known now, under their signature: what was excused in it is
 * excused, and who signed stands there as its review.
 */
export async function conditionsSince(
  reader: Reader,
  runs: readonly RunStanding[],
  now: Date,
): Promise<Map<string, ReleaseCondition[]>> {
  const ids = runs.map(({ lotId }) => lotId);
  const marks = await reader
    .selectDistinctOn([runMark.runLotId], {
      runLotId: runMark.runLotId,
      excuses: runMark.excuses,
      by: person.initials,
      own: runMark.own,
    })
    .from(runMark)
    .innerJoin(person, eq(person.id, runMark.by))
    .where(and(sql`${runMark.runLotId} = ${anyOf(ids)}`, eq(runMark.what, 'released')))
    .orderBy(runMark.runLotId, desc(runMark.seq));
  const signed = new Map(marks.map((mark) => [mark.runLotId, mark]));
  const all = await conditionsOfEach(reader, runs, ({ lotId }) => ({
    id: '',
    isReviewer: true,
    now,
    excuses: signed.get(lotId)?.excuses ?? {},
  }));
  return new Map(
    [...all].map(([id, conditions]) => [id, conditions.map((one) => underSignature(one, signed.get(id)))]),
  );
}

function underSignature(
  condition: ReleaseCondition,
  mark: { readonly by: string; readonly own: boolean } | undefined,
): ReleaseCondition {
  if (condition.key !== 'review' || !mark) return condition;
  const now = `signed by ${mark.by}${mark.own ? ', who packed it' : ''}`;
  return { ...condition, state: 'met', now, wayOn: null };
}

/**
 * What stands open of released runs by what is known now: a jar read above the limit since, a reading put right. Of each
 * run, the first thing first; nothing: an empty list.
 */
export async function openSince(
  reader: Reader,
  runs: readonly RunStanding[],
  now: Date,
): Promise<Map<string, ReleaseCondition[]>> {
  return new Map(
    [...(await conditionsSince(reader, runs, now))].map(([id, conditions]) => [id, conditions.filter(isOpen)]),
  );
}

/**
 * Asks of many runs at once; where what is recorded of one cannot be read, of each by itself, so that it spoils no
 * other's answer. `faults`: what is said of those, by the run.
 */
export async function ofEachReadable<T>(
  runs: readonly RunStanding[],
  ask: (runs: readonly RunStanding[]) => Promise<ReadonlyMap<string, T>>,
): Promise<{ found: ReadonlyMap<string, T>; faults: ReadonlyMap<string, string> }> {
  try {
    return { found: await ask(runs), faults: new Map() };
  } catch (error) {
    if (!(error instanceof Refused) || error.refusal.code !== 'record.unreadable') throw error;
    const [only] = runs;
    if (runs.length === 1) return { found: new Map(), faults: new Map([[only!.lotId, error.refusal.message]]) };
  }
  const [found, faults] = [new Map<string, T>(), new Map<string, string>()];
  for (const run of runs) {
    const own = await ofEachReadable([run], ask);
    for (const [id, one] of own.found) found.set(id, one);
    for (const [id, words] of own.faults) faults.set(id, words);
  }
  return { found, faults };
}
