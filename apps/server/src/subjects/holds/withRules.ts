import type { Entry, Recorded } from '@clear-tally/contract';
import type { Database } from '../../db/database.js';
import { BatchQueue } from '../../journal/batchQueue.js';
import { recordEntries, type Request } from '../../journal/record.js';
import { kindOf } from '../../journal/registry.js';
import { refuseUntrained } from '../people/index.js';
import { applyRules, couldBeHeld, decideAnew, lotsRead } from './applyRules.js';

/** A look of the rules behind what was recorded: at every live vessel, or at those named. */
interface Look {
  readonly now: Date;
  readonly lots: readonly string[] | 'all';
  /** Nothing but pH was read of these: most of them need no closer look. */
  readonly onlyPh: boolean;
}

const looks = new WeakMap<Database, BatchQueue<Look, void>>();

/**
 * Records entries as whoever works in the house does: the rules look before anything is taken, and behind whatever
 * changes what they go by. Looks that are asked for together are one look: eight people who read eight vessels ask the
 * house once. What is recorded is recorded: a look that fails is made again by the clock.
 * @throws {Refused} the first entry that a rule refuses
 */
export async function recordWithRules(db: Database, request: Request): Promise<Recorded[]> {
  const { entries, now } = request;
  await refuseUntrained(db, entries, request.actor.id);
  if (entries.some(({ kind }) => kindOf(kind).rulesBefore)) await applyRules(db, now);
  const recorded = await recordEntries(db, request);
  const corrected = entries.flatMap(({ kind, body }) => (kind === 'entry.correct' ? [body.corrects] : []));
  if (corrected.length > 0) await decideAnew(db, now, await lotsRead(db, corrected)).catch(() => 0);
  const look = lookBehind(entries, now);
  if (look)
    await queueOf(db)
      .add(look)
      .catch(() => undefined);
  return recorded;
}

function lookBehind(entries: readonly Entry[], now: Date): Look | null {
  const ruled = entries.filter(({ kind }) => kindOf(kind).rulesBehind);
  if (ruled.length === 0) return null;
  const lots = ruled.map(({ body }) => {
    const { lotId, toLotId } = body as { lotId?: string; toLotId?: string };
    return lotId ?? toLotId;
  });
  const named = lots.filter((lotId) => lotId !== undefined);
  return {
    now,
    lots: named.length === lots.length ? named : 'all',
    onlyPh: entries.every(({ kind }) => kind === 'ph.read'),
  };
}

function queueOf(db: Database): BatchQueue<Look, void> {
  let queue = looks.get(db);
  if (!queue) {
    queue = new BatchQueue((together) => lookTogether(db, together), {
      isOnesFault: () => false,
      mostWaiting: 1000,
      tooMany: () => new Error('Very many looks of the rules wait.'),
    });
    looks.set(db, queue);
  }
  return queue;
}

async function lookTogether(db: Database, together: readonly Look[]): Promise<void[]> {
  const now = new Date(Math.max(...together.map((look) => look.now.getTime())));
  const lotsOf = (some: readonly Look[]): string[] => some.flatMap(({ lots }) => (lots === 'all' ? [] : lots));
  if (together.some(({ lots }) => lots === 'all')) {
    await applyRules(db, now);
  } else {
    const phLots = lotsOf(together.filter(({ onlyPh }) => onlyPh));
    const close = phLots.length === 0 ? [] : await couldBeHeld(db, phLots);
    await applyRules(db, now, [...new Set([...lotsOf(together.filter(({ onlyPh }) => !onlyPh)), ...close])]);
  }
  return together.map(() => undefined);
}
