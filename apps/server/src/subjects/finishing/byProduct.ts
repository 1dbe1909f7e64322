import { checkMass, formatGrams } from '@clear-tally/core';
import { kind } from '../../journal/kind.js';
import { must } from '../../journal/refused.js';
import { addLot, addMovements, closeEmptied, codeFor, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { nextPreparationCode } from '../preparations/index.js';

export const byProductTaken = kind('finish.byProduct', {
  who: 'maker',
  words: 'By-product',
  does: 'juice, brine for the kitchen, pieces: what comes off beside the product, as a lot of its own',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill']);
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    must(checkMass({ grams: body.grams, what: body.name, field: 'grams' }));
    const batch = await loadLot(tx, from.batchId!, 'fromLotId');
    const code = codeFor(recording, body.lotId, await nextPreparationCode(tx, batch));
    await addLot(recording, {
      id: body.lotId,
      code,
      kind: 'preparation',
      form: 'byProduct',
      name: body.name,
      origin: 'made',
      at,
      batchId: batch.id,
    });
    await addMovements(
      recording,
      [{ from: { lot: from }, to: { lotId: body.lotId }, grams: body.grams, field: 'grams' }],
      { entryId: recording.entry.id, kind: body.as === 'juice' ? 'finish.juice' : 'finish.byProduct', at },
    );
    const emptied = await closeEmptied(recording, from);
    return { facts: { code, ...(emptied ? { emptied: from.code } : {}) }, lots: [from.id, body.lotId] };
  },
  line: ({ entry, facts, code }) => ({
    what: `${entry.body.name}: ${String(facts['code'] ?? '')}`,
    words: `off ${code(entry.body.fromLotId)}`,
    figure: formatGrams(entry.body.grams),
  }),
});
