import type { FloorReply, WatchReply } from '@clear-tally/contract';
import { decideLift, diverging } from '@clear-tally/core';
import type { Reader } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { standing } from '../../lots/standing.js';
import type { Watched } from '../../lots/watchedVessel.js';

const DAY = 86_400_000;

/** The floor: every live vessel in walking order, with what it needs now. */
export async function readFloor(reader: Reader, now: Date): Promise<FloorReply> {
  const look = await standing(reader, now);
  const { vessels: watched, faults } = look;
  const shelf = await look.shelf();
  const drawn = new Map(shelf.vessels.map((vessel) => [vessel.lotId, vessel]));
  const odd = oddOnes(watched);
  return {
    now: shelf.now,
    rooms: shelf.rooms,
    faults,
    vessels: watched.flatMap((vessel) => {
      const of = drawn.get(vessel.lotId);
      return of
        ? [
            {
              ...of,
              closure: vessel.closure as typeof of.closure,
              batchId: vessel.batchId,
              ...standingOf(vessel),
              odd: odd.has(vessel.code),
            },
          ]
        : [];
    }),
  };
}

/** What pages show of a watched vessel. */
export function standingOf(
  vessel: Watched,
): Pick<
  WatchReply,
  'checks' | 'holds' | 'trend' | 'lateness' | 'temperature' | 'ready' | 'readyFrom' | 'readyTo' | 'window' | 'lastDay'
> {
  const { trend, standing, lateness, window } = vessel;
  return {
    checks: vessel.due,
    holds: vessel.holds.map(({ entryId, rule, reason, placedAt, causeLot }) => ({
      entryId,
      rule,
      reason,
      placedAt,
      further: causeLot !== null,
      mayLift: whyNotLift(vessel, { rule, placedAt }),
    })),
    trend: {
      direction: trend.direction,
      ph: trend.last?.ph ?? null,
      at: trend.last?.at ?? null,
      rise: trend.rise,
      sample: trend.last?.sample ?? null,
      counts: standing.counting && { ph: standing.counting.ph, at: standing.counting.at },
    },
    lateness: {
      state: lateness.state,
      deadline: lateness.deadline,
      reachedAt: lateness.reachedAt,
      words: lateness.words,
      hours: lateness.hours,
      unread: lateness.unread,
    },
    temperature: vessel.temperature,
    ready: vessel.ready,
    readyFrom: window.from,
    readyTo: window.to,
    window: {
      why: window.why,
      says: window.says,
      tasteDay: window.tasteDay,
      coldOn: window.coldOn,
      best: window.best,
    },
    lastDay: vessel.lastDay,
  };
}

/** What keeps a reviewer from ending this hold now; null when nothing does. */
function whyNotLift(
  vessel: Watched,
  hold: { rule: Parameters<typeof decideLift>[0]['rule']; placedAt: number },
): string | null {
  const throwOut = vessel.lateness.state === 'throwOut' || vessel.holds.some(({ rule }) => rule === 'throwOut');
  const outcome = decideLift({ code: vessel.code, ...hold, points: vessel.phs, acidLimit: vessel.acidLimit, throwOut });
  return outcome.ok ? null : outcome.refusal.message;
}

/** Vessels of one batch that stand apart, read on the same day. */
export function oddOnes(watched: readonly Watched[]): Set<string> {
  const odd = new Set<string>();
  for (const sisters of groupBy(watched, ({ batchId }) => batchId).values()) {
    const newest = Math.max(...sisters.map(({ trend }) => trend.last?.at ?? 0));
    const together = sisters.flatMap(({ code, trend }) =>
      trend.last && newest - trend.last.at < DAY ? [{ code, ph: trend.last.ph }] : [],
    );
    diverging(together).forEach((code) => odd.add(code));
  }
  return odd;
}
