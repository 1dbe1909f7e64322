import { and, eq, isNull } from 'drizzle-orm';
import { timer } from '../../db/schema/making.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { sheetLot, stepChoices } from './onSheet.js';

export const timerStarted = kind('timer.start', {
  who: 'maker',
  words: 'Timer started',
  does: 'timers, kept on the server',
  correct: 'book',
  choices: async (reader, { batchId }) => ({ step: (await stepChoices(reader, batchId))['step'] ?? [] }),
  record: async ({ tx, entry, body, at }) => {
    if (body.batchId) await sheetLot(tx, body.batchId);
    await tx.insert(timer).values({
      id: body.timerId,
      batchId: body.batchId,
      step: body.step,
      words: body.words,
      minutes: body.minutes,
      startedAt: at,
      by: entry.by,
    });
    return { lots: body.batchId ? [body.batchId] : [] };
  },
  line: ({ entry }) => ({ what: `Timer: ${entry.body.words}`, words: `${entry.body.minutes} min` }),
});

export const timerStopped = kind('timer.stop', {
  who: 'maker',
  words: 'Timer stopped',
  does: 'timers, kept on the server',
  correct: 'book',
  falls: true,
  record: async ({ tx, body, at }) => {
    const [stopped] = await tx
      .update(timer)
      .set({ stoppedAt: at })
      .where(and(eq(timer.id, body.timerId), isNull(timer.stoppedAt)))
      .returning();
    if (!stopped)
      throw refused('timer.unknown', 'This timer is not running: somebody stopped it already.', { field: 'timerId' });
    return {
      facts: { words: stopped.words, minutes: Math.round((at.getTime() - stopped.startedAt.getTime()) / 6000) / 10 },
      lots: stopped.batchId ? [stopped.batchId] : [],
    };
  },
  line: ({ facts }) => ({
    what: `Timer stopped: ${String(facts['words'] ?? '')}`,
    words: `after ${String(facts['minutes'] ?? '')} min`,
  }),
});
