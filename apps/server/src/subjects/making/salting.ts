import { checkMass, decideSaltWeigh, formatWeighed } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { saltAcceptance } from '../../db/schema/ledger.js';
import { material } from '../../db/schema/stores.js';
import { Falls, happened, isReplay } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { addMovements, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { refuseChanged } from './batches.js';

export const saltWeigh = kind('salt.weigh', {
  who: 'maker',
  task: 'salting',
  words: 'Salt weighed',
  does: 'salt into the batch or its brine; portions add up. Over the target is refused unless it is `alreadyIn`',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const salt = await loadLot(tx, body.saltLotId, 'saltLotId', ['supply']);
    await refuseHeld(tx, salt, 'saltLotId');
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, salt.materialId!));
    if (what?.kind !== 'salt')
      throw refused('lot.wrongKind', `${salt.code} is ${salt.name}, not salt. Choose a salt lot.`, {
        field: 'saltLotId',
      });
    must(checkMass({ grams: body.grams, what: 'salt', field: 'grams' }));
    const state = await batchState(tx, batch);
    if (body.saw && !recording.anew) refuseChanged(state, body.saw);
    const outcome = decideSaltWeigh({
      batch: state,
      grams: body.grams,
      alreadyIn: body.alreadyIn || recording.anew !== undefined,
    });
    // Salt that was weighed was weighed, also where its produce turns out to be another batch's: it can follow there.
    const decision = outcome.ok || !happened(tx) ? must(outcome) : null;
    const into = state.brine?.lotId ?? batch.id;
    await addMovements(recording, [{ from: { lot: salt }, to: { lotId: into }, grams: body.grams, field: 'grams' }]);
    const scale = await weighOn(recording, { ...body, lotId: into });
    return {
      facts: {
        ...(decision ? { targetGrams: decision.targetGrams, verdict: decision.atScale.verdict } : {}),
        ...scale,
      },
      lots: [batch.id, salt.id, ...(into === batch.id ? [] : [into])],
    };
  },
  line: ({ entry, facts, code, target }) => ({
    what: `Salt, ${code(entry.body.saltLotId)}`,
    words: [
      target(),
      facts['verdict'] === 'in' ? 'in' : facts['verdict'] === 'over' ? 'over target' : 'portion, under target',
      onScale(facts),
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatWeighed(entry.body.grams),
    value: entry.body.grams,
  }),
});

export const saltAccept = kind('salt.accept', {
  who: 'maker',
  words: 'Salt accepted as it is',
  does: 'salt outside its tolerance kept as it stands, with a reason; whatever is weighed in or corrected later asks again',
  correct: 'ledger',
  falls: true,
  record: async ({ tx, body, at, seq, anew }) => {
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const state = await batchState(tx, batch);
    const otherwise = (now: number, then: unknown): boolean => typeof then === 'number' && Math.abs(now - then) >= 0.5;
    if (
      happened(tx) &&
      !isReplay(tx) &&
      (otherwise(state.saltInGrams, anew?.facts['saltInGrams']) ||
        otherwise(state.targetGrams, anew?.facts['targetGrams']))
    )
      throw new Falls(`the salt of ${batch.code} was accepted as it stood then, and stood otherwise`);
    await tx
      .insert(saltAcceptance)
      .values({ batchId: batch.id, reason: body.reason, at, seq })
      .onConflictDoUpdate({ target: saltAcceptance.batchId, set: { reason: body.reason, at, seq } });
    return { facts: { saltInGrams: state.saltInGrams, targetGrams: state.targetGrams }, lots: [batch.id] };
  },
  line: ({ entry }) => ({ what: 'Salt accepted as it is', words: entry.body.reason }),
});
