import { checkMass, formatGrams } from '@clear-tally/core';
import { toMilligrams } from '../../db/schema/columns.js';
import { lotCount } from '../../db/schema/ledger.js';
import { kind } from '../../journal/kind.js';
import { must } from '../../journal/refused.js';
import { loadLot, refuseClosed } from '../../lots/lots.js';

export const lotCounted = kind('lot.count', {
  who: 'maker',
  words: 'Counted',
  does: 'a weighed loss; what stands there by weighing',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId');
    refuseClosed(of, 'lotId');
    if (body.grams > 0) must(checkMass({ grams: body.grams, what: 'what stands there', field: 'grams' }));
    await tx.insert(lotCount).values({
      entryId: entry.id,
      lotId: of.id,
      milligrams: toMilligrams(body.grams),
      byDifference: body.byDifference,
      at,
      seq,
    });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: 'Counted',
    words: entry.body.byDifference ? `difference taken as ${entry.body.byDifference}` : null,
    figure: formatGrams(entry.body.grams),
  }),
});
