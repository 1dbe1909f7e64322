import { checkMass, formatGrams } from '@clear-tally/core';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import { addLot, addMovements, closeEmptied, codeFor, loadLot, refuseHeld } from '../../lots/lots.js';
import { nextPreparationCode } from '../preparations/index.js';
import { inHand } from './finishInHand.js';

export const finishBrined = kind('finish.brine', {
  who: 'maker',
  task: 'salting',
  words: 'Brine for a repack',
  does: 'brine made ready for a repack: its own, strained, boiled and cooled, with what boiled away; or fresh, of water and salt',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const { of } = await inHand(tx, body.finishLotId);
    const batch = await loadLot(tx, of.batchId!, 'finishLotId');
    const code = codeFor(recording, body.brineLotId, await nextPreparationCode(tx, batch));
    const brine = {
      id: body.brineLotId,
      code,
      kind: 'preparation' as const,
      origin: 'made' as const,
      at,
      batchId: batch.id,
    };
    if (body.how === 'boiled') {
      const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill']);
      await refuseHeld(tx, from, 'fromLotId');
      must(checkMass({ grams: body.grams, what: 'brine', field: 'grams' }));
      must(checkMass({ grams: body.leftGrams, what: 'what is left', field: 'leftGrams' }));
      const boiledOff = body.grams - body.leftGrams;
      if (boiledOff < -0.001)
        throw refused(
          'lot.overdrawn',
          `${formatGrams(body.leftGrams)} is left of ${formatGrams(body.grams)}: boiling adds nothing. Weigh it again, and take the pot off.`,
          { field: 'leftGrams' },
        );
      await addLot(recording, { ...brine, form: 'boiledBrine', name: `Boiled brine of ${from.code}` });
      await addMovements(recording, [
        { from: { lot: from }, to: { lotId: body.brineLotId }, grams: body.grams, field: 'grams' },
      ]);
      if (boiledOff >= 0.001)
        await addMovements(recording, [
          {
            from: { lot: await loadLot(tx, body.brineLotId, 'brineLotId') },
            to: { sink: 'evaporation' },
            grams: boiledOff,
            field: 'leftGrams',
          },
        ]);
      await closeEmptied(recording, from);
      const { waterPhase } = await saltOf(tx, body.brineLotId);
      return { facts: { code, boiledOff, waterPhase }, lots: [of.id, body.brineLotId, from.id] };
    }
    const water = await loadLot(tx, body.waterLotId, 'waterLotId', ['supply']);
    await refuseHeld(tx, water, 'waterLotId');
    must(checkMass({ grams: body.waterGrams, what: 'water', field: 'waterGrams' }));
    await addLot(recording, { ...brine, form: 'repackBrine', name: 'Fresh brine to repack in' });
    await addMovements(recording, [
      { from: { lot: water }, to: { lotId: body.brineLotId }, grams: body.waterGrams, field: 'waterGrams' },
    ]);
    if (body.saltGrams > 0) {
      if (!body.saltLotId) throw refused('lot.unknown', 'Choose the lot the salt is from.', { field: 'saltLotId' });
      const salt = await loadLot(tx, body.saltLotId, 'saltLotId', ['supply']);
      await refuseHeld(tx, salt, 'saltLotId');
      await addMovements(recording, [
        { from: { lot: salt }, to: { lotId: body.brineLotId }, grams: body.saltGrams, field: 'saltGrams' },
      ]);
    }
    const { waterPhase } = await saltOf(tx, body.brineLotId);
    return {
      facts: { code, waterPhase },
      lots: [of.id, body.brineLotId, water.id, ...(body.saltLotId ? [body.saltLotId] : [])],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${entry.body.how === 'boiled' ? `Brine of ${code(entry.body.fromLotId)}, boiled` : 'Fresh brine'}: ${String(facts['code'] ?? '')}`,
    words: [
      entry.body.how === 'boiled'
        ? `${formatGrams(entry.body.grams - entry.body.leftGrams)} boiled away; nothing in it is alive`
        : `${formatGrams(entry.body.saltGrams)} salt in ${formatGrams(entry.body.waterGrams)} water`,
      typeof facts['waterPhase'] === 'number' && `${(facts['waterPhase'] * 100).toFixed(2)} % salt`,
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatGrams(
      entry.body.how === 'boiled' ? entry.body.leftGrams : entry.body.waterGrams + entry.body.saltGrams,
    ),
  }),
});
