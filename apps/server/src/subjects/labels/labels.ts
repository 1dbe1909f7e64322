import { labelPrinted } from '../../db/schema/making.js';
import { kind } from '../../journal/kind.js';
import { loadLot } from '../../lots/lots.js';

export const labelsPrinted = kind('label.print', {
  who: 'maker',
  words: 'Label printed',
  does: 'the lid on, from room to room, labels printed',
  correct: 'book',
  reachesLater: true,
  record: async ({ tx, entry, body, at }) => {
    for (const lotId of body.lotIds) await loadLot(tx, lotId, 'lotIds');
    await tx
      .insert(labelPrinted)
      .values(
        body.lotIds.map((lotId) => ({ entryId: entry.id, lotId, copies: body.copies, printer: body.printer, at })),
      );
    return { lots: body.lotIds };
  },
  line: ({ entry }) => ({
    what: `Label printed`,
    words: `${entry.body.copies} × ${entry.body.printer ?? 'on a sheet'}`,
  }),
});
