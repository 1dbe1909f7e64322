import { checkMass, decideFill, fillCode, formatGrams, noonOfDay, runCode } from '@clear-tally/core';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must } from '../../journal/refused.js';
import { loadHouse } from '../../lots/house.js';
import { addLot, addMovements, codeFor } from '../../lots/lots.js';
import { nextBatchCode } from '../making/index.js';
import { loadVessel } from '../vessels/index.js';
import { issueJars } from './issueJars.js';

/** What stood in the house before its ledger began: a batch of its own, of origin "before the ledger". */
export const lotOpen = kind('lot.open', {
  who: 'maker',
  words: 'Before the ledger',
  does: 'a vessel or jars from before these records',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const batchOf = codeFor(recording, body.batchId, await nextBatchCode(tx, at));
    await addLot(recording, {
      id: body.batchId,
      code: batchOf,
      kind: 'batch',
      name: body.name,
      origin: 'beforeLedger',
      at,
      batchId: body.batchId,
      closedAt: at,
    });
    const { timeZone } = await loadHouse(tx);
    // A fill stands since the day it was filled, when somebody knows it: its day number counts from there.
    const since = body.filledOn ? new Date(Math.min(noonOfDay(body.filledOn, timeZone), at.getTime())) : at;
    if (body.what === 'vessel') {
      const into = await loadVessel(tx, body.vesselId);
      must(checkMass({ grams: body.grams, what: 'what stands in the vessel', field: 'grams' }));
      must(
        decideFill({
          vessel: into,
          grams: body.grams,
          bound: 'brim',
          overReason: happened(tx) ? 'as it stood' : undefined,
        }),
      );
      const code = codeFor(recording, body.fillLotId, fillCode(batchOf, into.tag), into.id);
      await addLot(recording, {
        id: body.fillLotId,
        code,
        kind: 'fill',
        name: body.name,
        origin: 'beforeLedger',
        at: since,
        batchId: body.batchId,
        vesselId: into.id,
      });
      await addMovements(recording, [
        { from: { source: 'opening' }, to: { lotId: body.fillLotId }, grams: body.grams },
      ]);
      return { facts: { code }, lots: [body.batchId, body.fillLotId] };
    }
    const code = codeFor(recording, body.runLotId, runCode(batchOf, 1));
    await addLot(recording, {
      id: body.runLotId,
      code,
      kind: 'run',
      name: body.name,
      origin: 'beforeLedger',
      at: since,
      batchId: body.batchId,
    });
    const grams = body.jars.reduce((sum, jars) => sum + jars.count * jars.netGrams, 0);
    await addMovements(recording, [{ from: { source: 'opening' }, to: { lotId: body.runLotId }, grams }]);
    return {
      facts: { code, jars: await issueJars(recording, body.runLotId, code, body.jars) },
      lots: [body.batchId, body.runLotId],
    };
  },
  line: ({ entry }) => ({
    what: 'Before the ledger',
    words: 'entered as it stood; what went in is not known',
    figure:
      entry.body.what === 'vessel'
        ? formatGrams(entry.body.grams)
        : `${entry.body.jars.reduce((sum, jars) => sum + jars.count, 0)} jars`,
  }),
});
