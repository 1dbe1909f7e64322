import { brineCode, checkMass, formatWeighed } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { material } from '../../db/schema/stores.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { brineLot } from '../../lots/brineLot.js';
import { addMovements, firstFree, loadLot, refuseClosed } from '../../lots/lots.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';

/** Water for the brine. The first one makes the lot; more water goes into the same. */
export const brineMake = kind('brine.make', {
  who: 'maker',
  task: 'salting',
  words: 'Water for the brine',
  does: 'water for the brine, a lot of its own',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const tap = await loadLot(tx, body.waterLotId, 'waterLotId', ['supply']);
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, tap.materialId!));
    if (what?.kind !== 'water')
      throw refused('lot.wrongKind', `${tap.code} is ${tap.name}, not water. Choose a water source.`, {
        field: 'waterLotId',
      });
    must(checkMass({ grams: body.waterGrams, what: 'water', field: 'waterGrams' }));
    const before = await batchState(tx, batch);
    if (before.waterGrams === 0 && (before.formula.waterPerProduce ?? 0) > 0) {
      throw refused('salt.nothingToSalt', 'Weigh the trimmed produce first: the brine follows what it has to cover.', {
        field: 'waterGrams',
      });
    }
    if ((before.formula.waterPerProduce ?? 0) === 0)
      throw refused('lot.wrongKind', `${batch.code} is salted dry. Water is no part of its formula.`, {
        field: 'batchId',
      });
    const { lotId: brineLotId, code } = await brineLot(recording, batch, before.brine, body.brineLotId, () =>
      firstFree(tx, (number) => brineCode(batch.code, number)),
    );
    await addMovements(recording, [
      { from: { lot: tap }, to: { lotId: brineLotId }, grams: body.waterGrams, field: 'waterGrams' },
    ]);
    const scale = await weighOn(recording, { ...body, grams: body.waterGrams, lotId: brineLotId });
    const state = await batchState(tx, batch);
    return { facts: { code, saltTargetGrams: state.targetGrams, ...scale }, lots: [batch.id, brineLotId, tap.id] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Water for the brine, ${code(entry.body.waterLotId)}`,
    words: [facts['code'], onScale(facts)].filter(Boolean).join(' · '),
    figure: formatWeighed(entry.body.waterGrams),
  }),
});
