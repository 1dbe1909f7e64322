import { jarCode } from '@clear-tally/core';
import { runLevelling } from '../../db/schema/finishing.js';
import { kind } from '../../journal/kind.js';
import { loadLot } from '../../lots/lots.js';
import { jarsGone } from '../dispatch/index.js';

/** The bottle the others are topped up from stays inside its own run: nothing else comes into a jar of it. */
export const bottlesLevelled = kind('run.level', {
  who: 'maker',
  task: 'packing',
  words: 'Levelled',
  does: 'bottles that settled for a day: topped up from one bottle of the same run, and closed for good',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at, seq, entry } = recording;
    const run = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    if (body.bottle !== null)
      await jarsGone(recording, {
        jars: [{ runLotId: run.id, first: body.bottle, last: body.bottle }],
        to: { kind: 'gone', how: 'levelling' },
        note: body.note,
      });
    await tx
      .insert(runLevelling)
      .values({ entryId: entry.id, runLotId: run.id, bottle: body.bottle, capped: body.capped, at, seq });
    return {
      facts: { bottle: body.bottle === null ? null : jarCode(run.code, body.bottle).text },
      lots: [run.id],
    };
  },
  line: ({ entry, facts }) => ({
    what: entry.body.capped ? 'Levelled and closed' : 'Levelled',
    words:
      [facts['bottle'] ? `from ${String(facts['bottle'])}` : 'none had to be topped up', entry.body.note]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});
