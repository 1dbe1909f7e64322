import type { BodyOf } from '@clear-tally/contract';
import {
  CLOCKS_APART_MS,
  countOf,
  GONE_WORDS,
  JAR_HEAT_WORDS,
  type JarAt,
  jarCode,
  momentInWords,
  type Serials,
  type Sink,
} from '@clear-tally/core';
import type { Transaction } from '../../db/database.js';
import { jarMove } from '../../db/schema/jars.js';
import { happened, isReplay } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { refused } from '../../journal/refused.js';
import { addMovements, balance, loadLot, type LotRow } from '../../lots/lots.js';
import { loadHouse } from '../../lots/house.js';
import { heatOf } from '../../lots/heat.js';
import { openSince, whyNotOut } from '../../lots/leaving.js';
import { type JarsOfRun, jarsOf, loadRun, loadRuns } from '../../lots/runs.js';

type Jars = BodyOf<'jars.dispatch'>['jars'];

/** How the mass of jars leaves the ledger, by where they go. */
const SINK_OF: Readonly<Record<keyof typeof GONE_WORDS, Sink | null>> = {
  market: 'sold',
  given: 'given',
  staff: 'staff',
  broken: 'broken',
  opened: 'sample',
  thrownOut: 'thrownOut',
  // What tops up its siblings stays in the run.
  levelling: null,
};

/** Jars that leave: where to, and why. */
export interface Leaving {
  readonly jars: Jars;
  readonly to: JarAt;
  readonly note: string | null;
}

/** What is asked of the jars before they move. */
interface Asked {
  /** `house`: they must stand in the house; `out`: somebody must have them. */
  readonly from: 'house' | 'out';
  /** They leave for people to eat: released, and nothing held along the way. */
  readonly released?: true;
}

/**
 * Nothing leaves of a run that is not released, is held, or of which something opened since; nor at a moment before its
 * release was recorded. @throws {Refused}
 */
async function refuseKeptIn(tx: Transaction, runIds: readonly string[], at: Date): Promise<void> {
  const runs = (await loadRuns(tx, runIds)).sort((a, b) => runIds.indexOf(a.lotId) - runIds.indexOf(b.lotId));
  const kept = await whyNotOut(tx, runs);
  const since = await openSince(tx, runs, at);
  for (const { lotId, code, markedAt } of runs) {
    const why = kept.get(lotId);
    if (why) throw refused(why.code, `${why.words} Nothing of it leaves.`, { field: 'jars' });
    if (at.getTime() < (markedAt ?? Infinity) - CLOCKS_APART_MS)
      throw refused(
        'jar.notReleased',
        `${code} was released on ${momentInWords(markedAt!, (await loadHouse(tx)).timeZone)}, after the time given. Nothing of it left before that: look at the time.`,
        { field: 'happenedAt' },
      );
    const [open] = since.get(lotId)!;
    if (open)
      throw refused(
        'release.open',
        `${code} is released, and since then stands open: ${open.words}: ${open.now}. Nothing of it leaves.`,
        { field: 'jars', facts: { open: [open.key] } },
      );
  }
}

/** Moves jars of a run by their numbers, each from where it is. @throws {Refused} one is not there, or may not leave */
export async function moveJars(
  recording: InHand,
  { jars, to, note }: Leaving,
  asked: Asked,
): Promise<{ lots: string[]; count: number; runs: string[] }> {
  const { tx, entry, seq, at } = recording;
  const runs = new Map<string, LotRow>();
  for (const { runLotId } of jars)
    if (!runs.has(runLotId)) runs.set(runLotId, await loadLot(tx, runLotId, 'jars', ['run']));
  refuseTwice(tx, jars, runs);
  const standing = await jarsOf(tx, [...runs.keys()], at);
  // A jar that is gone by now is gone, whatever earlier moment is named.
  const now = isReplay(tx) ? standing : await jarsOf(tx, [...runs.keys()]);
  for (const run of runs.values()) {
    if (at < run.at)
      throw refused('lot.notYet', `${run.code} was packed after the time given. Look at the time.`, {
        field: 'happenedAt',
      });
  }
  if (asked.released && !happened(tx)) await refuseKeptIn(tx, [...runs.keys()], at);
  let [number, count] = [1, 0];
  for (const part of jars) {
    const run = runs.get(part.runLotId)!;
    if (asked.released && !happened(tx)) refuseBack(run, now, part);
    if (asked.released && !happened(tx)) refuseRetained(run, standing, part);
    if (asked.released && !happened(tx)) await refuseUnheated(tx, run, part);
    inTheWay(run, now, part, asked.from);
    const parts = inTheWay(run, standing, part, asked.from);
    await tx.insert(jarMove).values({
      entryId: entry.id,
      number,
      runLotId: run.id,
      firstSerial: part.first,
      lastSerial: part.last,
      whereKind: to.kind,
      roomId: to.kind === 'house' ? to.roomId : null,
      customerId: to.kind === 'customer' ? to.customerId : null,
      dispatchId: to.kind === 'customer' ? to.dispatchId : null,
      how: to.kind === 'gone' ? to.how : asked.from === 'out' ? 'back' : null,
      note,
      at,
      seq,
    });
    number += 1;
    count += countOf(part);
    await weigh(recording, run, parts, to);
  }
  return { lots: [...runs.keys()], count, runs: [...runs.values()].map(({ code }) => code) };
}

/** One jar is named once. @throws {Refused} */
function refuseTwice(tx: Transaction, jars: Jars, runs: ReadonlyMap<string, LotRow>): void {
  if (isReplay(tx)) return;
  for (const [index, part] of jars.entries()) {
    const other = jars
      .slice(0, index)
      .find((one) => one.runLotId === part.runLotId && one.first <= part.last && one.last >= part.first);
    if (!other) continue;
    const jar = jarCode(runs.get(part.runLotId)!.code, Math.max(part.first, other.first)).text;
    throw refused('jar.twice', `${jar} is named twice. One code is one jar: look at the jars again.`, {
      field: 'jars',
      facts: { jar },
    });
  }
}

/** A jar that came back was out of the house's hands: nobody knows how it stood. It is not sold again. */
function refuseBack(run: LotRow, standing: readonly JarsOfRun[], { first, last }: Serials): void {
  for (const { runLotId, back } of standing) {
    const came = runLotId === run.id ? back.find((one) => one.first <= last && one.last >= first) : undefined;
    if (!came) continue;
    const jar = jarCode(run.code, Math.max(first, came.first)).text;
    throw refused('jar.cameBack', `${jar} came back from who had it: it is not sold again. Open it, or throw it out.`, {
      field: 'jars',
      facts: { jar },
    });
  }
}

/** What is kept to be tasted is not sold: it is the evidence of the shelf life. */
function refuseRetained(run: LotRow, standing: readonly JarsOfRun[], { first, last }: Serials): void {
  const kept = standing
    .filter(({ runLotId }) => runLotId === run.id)
    .flatMap(({ retained }) => retained)
    .find((one) => one.first <= last && one.last >= first);
  if (!kept) return;
  const jar = jarCode(run.code, Math.max(first, kept.first)).text;
  throw refused('jar.retained', `${jar} is kept to be tasted over its shelf life. Take another one.`, {
    field: 'jars',
    facts: { jar },
  });
}

/** Of a run that is kept ambient only jars leave whose own load met its process. */
async function refuseUnheated(tx: InHand['tx'], run: LotRow, { first, last }: Serials): Promise<void> {
  if ((await loadRun(tx, run)).storage !== 'ambient') return;
  const held = (await heatOf(tx, { lotId: run.id })).jars.find(
    (one) => one.heat !== 'met' && one.first <= last && one.last >= first,
  );
  if (!held) return;
  const jar = jarCode(run.code, Math.max(first, held.first)).text;
  throw refused('heat.jarHeld', `${jar}: ${JAR_HEAT_WORDS[held.heat]}. It does not leave.`, {
    field: 'jars',
    facts: { jar },
  });
}

/** The stretches of these serials by size, each where it must be. @throws {Refused} unknown, or elsewhere */
function inTheWay(
  run: LotRow,
  standing: readonly JarsOfRun[],
  { first, last }: Serials,
  from: Asked['from'],
): { netGrams: number; count: number }[] {
  const ranges = standing.filter((one) => one.runLotId === run.id && one.first <= last && one.last >= first);
  const known = ranges.reduce((sum, one) => sum + Math.min(last, one.last) - Math.max(first, one.first) + 1, 0);
  if (known < last - first + 1)
    throw refused('jar.unknown', `${run.code} has no jar ${known === 0 ? first : last}. Read its label again.`, {
      field: 'jars',
      facts: { run: run.code, first, last },
    });
  return ranges.map(({ segments, netGrams, ...one }) => {
    for (const segment of segments) {
      if (segment.first > last || segment.last < first) continue;
      if ((segment.where.kind === 'house') === (from === 'house') && segment.where.kind !== 'gone') continue;
      const jar = jarCode(run.code, Math.max(first, segment.first)).text;
      throw refused(
        from === 'house' ? 'jar.notHere' : 'jar.moved',
        from === 'house'
          ? `${jar} is not in the house: ${segment.where.kind === 'gone' ? GONE_WORDS[segment.where.how] : 'a customer has it'}.`
          : `${jar} is with nobody outside: ${segment.where.kind === 'gone' ? GONE_WORDS[segment.where.how] : 'it stands in the house'}.`,
        { field: 'jars', facts: { jar } },
      );
    }
    return { netGrams, count: Math.min(last, one.last) - Math.max(first, one.first) + 1 };
  });
}

/** Their mass in the ledger; what the book has left of a run is all that can leave it. */
async function weigh(
  recording: InHand,
  run: LotRow,
  parts: readonly { netGrams: number; count: number }[],
  to: JarAt,
): Promise<void> {
  const grams = parts.reduce((sum, { netGrams, count }) => sum + netGrams * count, 0);
  // What tops up its siblings stays in the run.
  if (to.kind === 'house') return;
  const { atGrams, leastLaterGrams } = await balance(recording.tx, run, recording.at);
  const leaves = Math.min(grams, atGrams, leastLaterGrams);
  if (leaves < 0.001) return;
  const sink = to.kind === 'customer' ? 'sold' : SINK_OF[to.how];
  if (sink) await addMovements(recording, [{ from: { lot: run }, to: { sink }, grams: leaves, field: 'jars' }]);
}
