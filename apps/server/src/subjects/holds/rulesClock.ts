import type { Database } from '../../db/database.js';
import { applyRules } from './applyRules.js';

const PAUSE_MS = 30_000;

/**
 * A deadline passes without anybody recording anything: the rules look by the clock, too. One look begins half a
 * minute after the last has ended, so that none overlaps another, however long it takes.
 */
export function rulesByTheClock(
  db: Database,
  clock: { now: () => Date; onFault: (error: unknown) => void; pauseMs?: number },
): { stop(): Promise<void> } {
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  const look = async (): Promise<void> => {
    await applyRules(db, clock.now()).catch(clock.onFault);
    if (!stopped)
      timer = setTimeout(() => {
        running = look();
      }, clock.pauseMs ?? PAUSE_MS);
  };
  let running = look();
  return {
    stop: async () => {
      stopped = true;
      clearTimeout(timer);
      await running;
    },
  };
}
