import { checkMass, decideFrozen, formatGrams, formatWeighed, piecesWords } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { material } from '../../db/schema/stores.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { hasStarter, wasFrozen } from '../../lots/frozen.js';
import { batchState } from '../../lots/batchSalt.js';
import { addMovements, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';

export const produceWeigh = kind('produce.weigh', {
  who: 'maker',
  words: 'Produce weighed',
  does: 'trimmed produce into the batch, trimmings to trim',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const supply = await loadLot(tx, body.supplyLotId, 'supplyLotId', ['supply']);
    await refuseHeld(tx, supply, 'supplyLotId');
    await refusePast(tx, supply, recording.at, body.pastReason);
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, supply.materialId!));
    if (what?.kind !== 'produce')
      throw refused(
        'lot.wrongKind',
        `${supply.code} is ${supply.name}, not produce. Choose a lot of the formula’s produce.`,
        { field: 'supplyLotId' },
      );
    if (await wasFrozen(tx, supply.id, recording.at))
      ask(
        tx,
        decideFrozen({
          code: supply.code,
          name: supply.name,
          hasStarter: await hasStarter(tx, batch.id),
          reason: body.frozenReason,
        }),
      );
    must(checkMass({ grams: body.trimmedGrams, what: 'the trimmed produce', field: 'trimmedGrams' }));
    if (body.mixedGrams !== undefined && body.mixedGrams < body.trimmedGrams)
      throw refused(
        'figure.unfit',
        `${formatGrams(body.trimmedGrams)} of ${supply.name} were given as its share of ${formatGrams(body.mixedGrams)}: a share is no more than the whole.`,
        { field: 'trimmedGrams' },
      );
    await addMovements(recording, [
      { from: { lot: supply }, to: { lotId: batch.id }, grams: body.trimmedGrams, field: 'trimmedGrams' },
      ...(body.trimWasteGrams > 0
        ? [
            {
              from: { lot: supply },
              to: { sink: 'trim' as const },
              grams: body.trimWasteGrams,
              field: 'trimWasteGrams',
            },
          ]
        : []),
    ]);
    const scale = await weighOn(recording, {
      ...body,
      grams: body.mixedGrams ?? body.trimmedGrams,
      lotId: batch.id,
    });
    const state = await batchState(tx, batch);
    return { facts: { saltTargetGrams: state.targetGrams, ...scale }, lots: [batch.id, supply.id] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Trimmed produce, ${code(entry.body.supplyLotId)}`,
    words:
      [
        entry.body.pieces && piecesWords({ grams: entry.body.trimmedGrams, pieces: entry.body.pieces }),
        entry.body.mixedGrams && `its share of ${formatWeighed(entry.body.mixedGrams)} weighed together`,
        entry.body.trimWasteGrams > 0 && `${formatGrams(entry.body.trimWasteGrams)} trimmed off`,
        entry.body.frozenReason && `frozen, without a starter: ${entry.body.frozenReason}`,
        onScale(facts),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatWeighed(entry.body.trimmedGrams),
  }),
});
