import { checkMass, formatGrams } from '@clear-tally/core';
import { kind } from '../../journal/kind.js';
import { must } from '../../journal/refused.js';
import { LOSS_WORDS } from '../../lots/lineWords.js';
import { addMovements, loadLot, refuseClosed } from '../../lots/lots.js';

export const lossRecord = kind('loss.record', {
  who: 'maker',
  words: 'Loss',
  does: 'a weighed loss; what stands there by weighing',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId');
    refuseClosed(of, 'lotId');
    must(checkMass({ grams: body.grams, what: 'what is gone', field: 'grams' }));
    await addMovements(recording, [{ from: { lot: of }, to: { sink: body.sink }, grams: body.grams, field: 'grams' }]);
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: `Loss: ${LOSS_WORDS[entry.body.sink]}`,
    words: entry.body.note,
    figure: formatGrams(entry.body.grams),
  }),
});
