import { checkMass, decideDrain, decideLeafSalt, effectsOf, formatGrams, formatWeighed } from '@clear-tally/core';
import { and, count, desc, eq, isNotNull } from 'drizzle-orm';
import { type Transaction } from '../../db/database.js';
import { toMilligrams } from '../../db/schema/columns.js';
import { leafLog } from '../../db/schema/making.js';
import { ask, happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { type BatchState, batchState } from '../../lots/batchSalt.js';
import { leafWords } from '../../lots/lineWords.js';
import { addMovements, balance, loadLot, type LotRow, refuseClosed } from '../../lots/lots.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { leafEstimate } from './leafEstimate.js';

async function leafBatch(tx: Transaction, batchId: string): Promise<{ batch: LotRow; state: BatchState }> {
  const batch = await loadLot(tx, batchId, 'batchId', ['batch']);
  refuseClosed(batch, 'batchId');
  const state = await batchState(tx, batch);
  if (!state.formula.heavy)
    throw refused('lot.wrongKind', `${batch.code} is not salted heavily and rinsed: its formula says otherwise.`, {
      field: 'batchId',
    });
  if (state.saltInGrams === 0)
    throw refused('salt.nothingToSalt', 'Weigh the salt for the leaf first.', { field: 'batchId' });
  return { batch, state };
}

export const leafTurned = kind('leaf.turn', {
  who: 'maker',
  words: 'Leaf turned',
  does: 'a heavily salted leaf turned, rinsed, drained and weighed, measured, tasted',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const { batch } = await leafBatch(tx, body.batchId);
    await tx.insert(leafLog).values({ entryId: entry.id, batchId: batch.id, what: 'turn', by: entry.by, at, seq });
    return { lots: [batch.id] };
  },
  line: () => ({ what: 'Leaf turned', words: null }),
});

export const leafRinsed = kind('leaf.rinse', {
  who: 'maker',
  words: 'Leaf rinsed',
  does: 'a heavily salted leaf turned, rinsed, drained and weighed, measured, tasted',
  correct: 'ledger',
  record: async ({ tx, entry, body, seq, at }) => {
    const { batch } = await leafBatch(tx, body.batchId);
    must(checkMass({ grams: body.waterGrams, what: 'rinse water', field: 'waterGrams' }));
    await tx.insert(leafLog).values({
      entryId: entry.id,
      batchId: batch.id,
      what: 'rinse',
      waterMilligrams: toMilligrams(body.waterGrams),
      waterPhaseSalt: body.measured?.waterPhaseSalt ?? null,
      how: body.measured?.how ?? null,
      tasted: body.tasted,
      by: entry.by,
      at,
      seq,
    });
    return { lots: [batch.id] };
  },
  line: ({ entry }) => ({ what: 'Rinsed', words: leafWords(entry.body), figure: formatGrams(entry.body.waterGrams) }),
});

/** Drained and weighed: the difference went with the water. Without a measured salt the estimate from what was really done stands. */
export const leafDrained = kind('leaf.drain', {
  who: 'maker',
  words: 'Leaf drained',
  does: 'a heavily salted leaf turned, rinsed, drained and weighed, measured, tasted',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const { batch, state } = await leafBatch(tx, body.batchId);
    const [before] = await tx
      .select({ n: count() })
      .from(leafLog)
      .where(and(eq(leafLog.batchId, batch.id), eq(leafLog.what, 'drain')));
    if (before!.n > 0)
      throw refused('making.stepDone', 'The drained leaf is weighed already. Nothing was recorded twice.', {
        field: 'drainedGrams',
      });
    const inBowls = (await balance(tx, batch, at)).atGrams;
    const { rinsedGrams, lossFraction } = must(
      decideDrain({
        leafGrams: state.produceGrams,
        inBowlsGrams: inBowls,
        drainedGrams: body.drainedGrams,
        reason: body.reason ?? (happened(tx) ? 'as it was weighed' : null),
      }),
    );
    const scale = await weighOn(recording, { ...body, grams: body.drainedGrams, lotId: batch.id });
    const estimate = await leafEstimate(tx, batch.id, state, at);
    const [measuredBefore] = await tx
      .select({ salt: leafLog.waterPhaseSalt, how: leafLog.how })
      .from(leafLog)
      .where(and(eq(leafLog.batchId, batch.id), isNotNull(leafLog.waterPhaseSalt)))
      .orderBy(desc(leafLog.seq))
      .limit(1);
    ask(
      tx,
      decideLeafSalt({
        way: effectsOf(batch.rules ?? {}).leafSalt,
        measured: body.measured !== null || measuredBefore !== undefined,
        tasted: body.tasted !== null,
        reason: body.reason,
      }),
    );
    const salt = body.measured?.waterPhaseSalt ?? measuredBefore?.salt ?? estimate.estimate;
    const how = body.measured?.how ?? measuredBefore?.how ?? 'estimate';
    await tx.insert(leafLog).values({
      entryId: entry.id,
      batchId: batch.id,
      what: 'drain',
      drainedMilligrams: toMilligrams(body.drainedGrams),
      waterPhaseSalt: salt,
      how,
      tasted: body.tasted,
      by: entry.by,
      at,
      seq,
    });
    if (rinsedGrams >= 0.001)
      await addMovements(recording, [
        { from: { lot: batch }, to: { sink: 'rinse' }, grams: rinsedGrams, field: 'drainedGrams' },
      ]);
    return {
      facts: { rinsedGrams, lossFraction, leafSalt: salt, how, estimate: estimate.estimate, ...scale },
      lots: [batch.id],
    };
  },
  line: ({ entry, facts }) => ({
    what: 'Drained and weighed',
    words: [
      `${(Number(facts['leafSalt'] ?? 0) * 100).toFixed(2)} % salt in the leaf, ${facts['how'] === 'estimate' ? 'an estimate' : 'measured'}`,
      `${(Number(facts['lossFraction'] ?? 0) * 100).toFixed(0)} % gone`,
      entry.body.reason,
      onScale(facts),
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatWeighed(entry.body.drainedGrams),
  }),
});
