import { checkMass, formatGrams, type HoldRule } from '@clear-tally/core';
import { hold } from '../../db/schema/ledger.js';
import { happened, heldPasses } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { listed } from '../../lots/lineWords.js';
import { addMovements, closeEmptied, loadLot, refuseClosed } from '../../lots/lots.js';
import { openHolds } from '../../lots/openHolds.js';

/** What is hardest to end comes first. */
const STRICTEST: readonly HoldRule[] = ['throwOut', 'late', 'rising', 'finding', 'upstream', 'person'];

/** A merge or a top-up from a sister vessel: what is taken out later inherits both. */
export const lotTransfer = kind('lot.transfer', {
  who: 'maker',
  words: 'Poured over',
  does: 'from one vessel into another',
  correct: 'ledger',
  heeds: true,
  rulesBefore: true,
  rulesBehind: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body } = recording;
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill', 'preparation']);
    const to = await loadLot(tx, body.toLotId, 'toLotId', ['fill']);
    if (from.id === to.id)
      throw refused('lot.wrongKind', `${from.code} cannot be topped up from itself.`, { field: 'fromLotId' });
    refuseClosed(from, 'fromLotId');
    refuseClosed(to, 'toLotId');
    const held = (await openHolds(tx, [from.id])).get(from.id) ?? [];
    if (held.length > 0 && !(body.carryHolds && from.kind === 'fill') && !heldPasses(tx)) {
      throw refused(
        'lot.onHold',
        `${from.code} is on hold: ${held.map(({ reason }) => reason).join('; ')}. What it is poured into goes on hold with it, for the same reasons: say so, or wait.`,
        { field: 'fromLotId', facts: { carries: from.kind === 'fill' } },
      );
    }
    if (from.kind === 'fill' && from.formulaId !== to.formulaId && !body.confirmedOther && !happened(tx)) {
      throw refused(
        'lot.otherFormula',
        `${from.code} is ${from.name}, ${to.code} is ${to.name}. Poured together they are one thing with the allergens, the salt and the deadline of both. Is that meant?`,
        { field: 'fromLotId', facts: { asks: 'confirmedOther' } },
      );
    }
    must(checkMass({ grams: body.grams, field: 'grams' }));
    await addMovements(recording, [{ from: { lot: from }, to: { lotId: to.id }, grams: body.grams, field: 'grams' }]);
    // A mixture carries the holds of both its parts, each with what ends it.
    if (held.length > 0) {
      // One hold with the strictest rule of them: what ends that one would have ended the others.
      const rule = STRICTEST.find((one) => held.some((open) => open.rule === one))!;
      await tx.insert(hold).values({
        entryId: recording.entry.id,
        lotId: to.id,
        reason: `${from.code}: ${held.map(({ reason }) => reason).join('; ')}`,
        rule,
        causeLot: null,
        placedAt: recording.at,
      });
    }
    const emptied = await closeEmptied(recording, from);
    return {
      facts: {
        ...(held.length > 0 ? { carried: held.map(({ reason }) => reason) } : {}),
        ...(emptied ? { emptied: from.code } : {}),
      },
      lots: [from.id, to.id],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${code(entry.body.fromLotId)} into ${code(entry.body.toLotId)}`,
    words:
      [
        entry.body.note,
        entry.body.confirmedOther && 'of another formula, and meant',
        listed('its holds came along', facts['carried']),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatGrams(entry.body.grams),
  }),
});
