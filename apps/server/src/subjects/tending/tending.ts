import { checkMass, decideFill, decideVesselSalt, formatGrams, isWeak } from '@clear-tally/core';
import { and, eq, isNull } from 'drizzle-orm';
import { hold, lot } from '../../db/schema/ledger.js';
import { ask, happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import {
  addLot,
  addMovements,
  balance,
  closeEmptied,
  codeFor,
  loadLot,
  refuseClosed,
  refuseHeld,
} from '../../lots/lots.js';
import { acceptWeak, freeFillCode, loadVessel } from '../vessels/index.js';

/** What is lost takes its salt with it when it ran over; what evaporated left it behind. Worked case W8. */
export const vesselToppedUp = kind('vessel.topUp', {
  who: 'maker',
  task: 'salting',
  words: 'Topped up',
  does: 'what ran over or evaporated and what took its place; a part in a vessel of its own; all of it out',
  correct: 'ledger',
  rulesBehind: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(of, 'lotId');
    must(checkMass({ grams: body.lostGrams, what: 'what is lost', field: 'lostGrams' }));
    if (body.waterGrams + body.saltGrams > 0)
      must(checkMass({ grams: body.waterGrams + body.saltGrams, what: 'the top-up', field: 'waterGrams' }));
    const before = await saltOf(tx, of.id);
    const water = await loadLot(tx, body.waterLotId, 'waterLotId', ['supply']);
    await refuseHeld(tx, water, 'waterLotId');
    await addMovements(recording, [
      { from: { lot: of }, to: { sink: body.how }, grams: body.lostGrams, field: 'lostGrams' },
    ]);
    if (body.saltGrams > 0) {
      if (!body.saltLotId) throw refused('lot.unknown', 'Choose the lot the salt is from.', { field: 'saltLotId' });
      const salt = await loadLot(tx, body.saltLotId, 'saltLotId', ['supply']);
      await refuseHeld(tx, salt, 'saltLotId');
      await addMovements(recording, [
        { from: { lot: salt }, to: { lotId: of.id }, grams: body.saltGrams, field: 'saltGrams' },
      ]);
    }
    if (body.waterGrams > 0)
      await addMovements(recording, [
        { from: { lot: water }, to: { lotId: of.id }, grams: body.waterGrams, field: 'waterGrams' },
      ]);
    const after = await saltOf(tx, of.id);
    // What stood weak before and is not thinned further was accepted then.
    const thinned = isWeak(after) && !(isWeak(before) && after.waterPhase! >= before.waterPhase! - 1e-9);
    if (thinned)
      ask(
        tx,
        decideVesselSalt({
          tag: of.code,
          waterPhaseSalt: after.waterPhase,
          isReviewer: recording.isOwner,
          reason: body.weakSaltReason,
          doing: 'why it is thinned so',
        }),
      );
    if (body.weakSaltReason && isWeak(after)) await acceptWeak(recording, of.id, body.weakSaltReason);
    return {
      facts: { before: before.waterPhase, after: after.waterPhase, band: after.band },
      lots: [of.id, water.id, ...(body.saltLotId ? [body.saltLotId] : [])],
    };
  },
  line: ({ entry, facts }) => ({
    what: entry.body.how === 'overflow' ? 'Ran over, topped up' : 'Dried away, topped up',
    words: `with ${formatGrams(entry.body.saltGrams)} salt in ${formatGrams(entry.body.waterGrams)} water: ${(Number(facts['before'] ?? 0) * 100).toFixed(2)} % before, ${(Number(facts['after'] ?? 0) * 100).toFixed(2)} % after`,
    figure: formatGrams(entry.body.lostGrams),
  }),
});

/** Part of a vessel in a free one. What holds the one holds the other. */
export const vesselSplit = kind('vessel.split', {
  who: 'maker',
  words: 'Split off',
  does: 'what ran over or evaporated and what took its place; a part in a vessel of its own; all of it out',
  correct: 'ledger',
  rulesBefore: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body } = recording;
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill']);
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    must(checkMass({ grams: body.grams, what: 'what is moved', field: 'grams' }));
    const into = await loadVessel(tx, body.vesselId);
    const fit = must(
      decideFill({
        vessel: into,
        grams: body.grams,
        bound: 'brim',
        overReason: happened(tx) ? 'as it was filled' : undefined,
      }),
    );
    const batch = await loadLot(tx, from.batchId!, 'fromLotId');
    const code = codeFor(recording, body.fillLotId, await freeFillCode(tx, batch.code, into.tag), into.id);
    // It has stood since its own vessel was filled: its days count on.
    await addLot(recording, {
      id: body.fillLotId,
      code,
      kind: 'fill',
      name: from.name,
      origin: from.origin,
      at: from.at,
      batchId: from.batchId,
      formulaId: from.formulaId,
      formulaVersion: from.formulaVersion,
      vesselId: into.id,
    });
    await addMovements(recording, [
      { from: { lot: from }, to: { lotId: body.fillLotId }, grams: body.grams, field: 'grams' },
    ]);
    const emptied = await closeEmptied(recording, from);
    return {
      facts: { code, fillFraction: fit.fillFraction, ...(emptied ? { emptied: from.code } : {}) },
      lots: [from.id, body.fillLotId],
    };
  },
  line: ({ entry, facts }) => ({
    what: `Split off into ${String(facts['code'] ?? '')}`,
    words: null,
    figure: formatGrams(entry.body.grams),
  }),
});

/** All that stands in it goes out; the vessel is free, its holds end with it, and the record says why. */
export const vesselThrownOut = kind('vessel.throwOut', {
  who: 'maker',
  words: 'Thrown out',
  does: 'what ran over or evaporated and what took its place; a part in a vessel of its own; all of it out',
  correct: 'ledger',
  heeds: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(of, 'lotId');
    const { atGrams } = await balance(tx, of, at);
    if (atGrams > 0)
      await addMovements(recording, [{ from: { lot: of }, to: { sink: 'thrownOut' }, grams: atGrams, field: 'lotId' }]);
    await tx.update(lot).set({ closedAt: at }).where(eq(lot.id, of.id));
    await tx
      .update(hold)
      .set({ liftedAt: at, liftReason: `thrown out: ${body.cause}` })
      .where(and(eq(hold.lotId, of.id), isNull(hold.liftedAt)));
    return { facts: { grams: atGrams, words: formatGrams(atGrams) }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: 'Thrown out',
    words: [facts['words'], entry.body.cause, entry.body.note].filter(Boolean).join(' · '),
  }),
});
