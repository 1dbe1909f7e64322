import { checkMass, decideBrineClosed, decideBrineUse, formatGrams } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { brineLot } from '../../lots/brineLot.js';
import {
  addLot,
  addMovements,
  balance,
  codeFor,
  loadLot,
  type LotRow,
  refuseClosed,
  refuseHeld,
} from '../../lots/lots.js';
import { generationOf } from '../../lots/starters.js';
import { nextPreparationCode } from './nextPreparationCode.js';
import { lastDay } from './brineKept.js';

/** Made, poured and left over are three numbers; the fourth is whether what is left touched the product. Worked case W12. */
export const brineLeft = kind('brine.left', {
  who: 'maker',
  words: 'Left of a brine',
  does: 'what is left of a brine, whether it touched the product, whether spices are in it, and where a difference went; left-over brine into another batch; brine taken off a vessel and kept',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const brine = await loadLot(tx, body.brineLotId, 'brineLotId', ['preparation']);
    if (brine.form !== 'brine')
      throw refused('lot.wrongKind', `${brine.code} is ${brine.name}, not a brine.`, { field: 'brineLotId' });
    refuseClosed(brine, 'brineLotId');
    const { atGrams } = await balance(tx, brine, at);
    const difference = body.grams - atGrams;
    if (difference > Math.max(20, atGrams * 0.02))
      throw refused(
        'lot.overdrawn',
        `${formatGrams(body.grams)} is said to be left of ${brine.code}; by the book it holds ${formatGrams(atGrams)}. Weigh again, or look at what was poured.`,
        { field: 'grams', facts: { onHandGrams: atGrams } },
      );
    ask(
      tx,
      decideBrineClosed({ code: brine.code, bookGrams: atGrams, leftGrams: body.grams, reason: body.differenceReason }),
    );
    await refuseUnsaidSpices(tx, brine, body.spices);
    if (difference <= -0.001)
      await addMovements(recording, [
        { from: { lot: brine }, to: { sink: 'residue' }, grams: -difference, field: 'grams' },
      ]);
    if (difference >= 0.001)
      await addMovements(recording, [
        { from: { source: 'countDifference' }, to: { lotId: brine.id }, grams: difference },
      ]);
    if (body.grams === 0) {
      await tx.update(lot).set({ touched: body.touched, closedAt: at }).where(eq(lot.id, brine.id));
      return { facts: { differenceGrams: difference }, lots: [brine.batchId!, brine.id] };
    }
    if (body.touched === 'never') {
      await tx.update(lot).set({ touched: 'never' }).where(eq(lot.id, brine.id));
      return { facts: { differenceGrams: difference }, lots: [brine.batchId!, brine.id] };
    }
    if (!body.fillLotId || !body.keptLotId)
      throw refused('lot.unknown', 'Poured off which vessel? Name it: what is left descends from it.', {
        field: 'fillLotId',
      });
    const fill = await loadLot(tx, body.fillLotId, 'fillLotId', ['fill']);
    const batch = await loadLot(tx, brine.batchId!, 'brineLotId', ['batch']);
    const code = codeFor(recording, body.keptLotId, await nextPreparationCode(tx, batch));
    // It went over the product and came off it: the ledger takes the same way.
    await addMovements(recording, [
      { from: { lot: brine }, to: { lotId: fill.id }, grams: body.grams, field: 'grams' },
    ]);
    await addLot(recording, {
      id: body.keptLotId,
      code,
      kind: 'preparation',
      form: 'keptBrine',
      name: `Brine poured off ${fill.code}`,
      origin: 'made',
      at,
      batchId: batch.id,
      generation: (await generationOf(tx, fill)) + 1,
      useBy: await lastDay(tx, at),
    });
    await addMovements(recording, [
      { from: { lot: fill }, to: { lotId: body.keptLotId }, grams: body.grams, field: 'grams' },
    ]);
    await tx.update(lot).set({ touched: 'pouredOff', closedAt: at }).where(eq(lot.id, brine.id));
    return { facts: { code, differenceGrams: difference }, lots: [batch.id, brine.id, fill.id, body.keptLotId] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Left of ${code(entry.body.brineLotId)}`,
    words: [
      entry.body.touched === 'never'
        ? 'never touched the product'
        : `poured off the product: now ${String(facts['code'] ?? '')}`,
      entry.body.spices &&
        { none: 'no spices in it', in: 'spices in it', strained: 'spices strained out' }[entry.body.spices],
      entry.body.differenceReason && `difference: ${entry.body.differenceReason}`,
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatGrams(entry.body.grams),
  }),
});

/** What spices are said to be in a brine has to stand in its book: nothing else carries their allergens on. */
async function refuseUnsaidSpices(
  tx: Transaction,
  brine: LotRow,
  said: 'none' | 'in' | 'strained' | undefined,
): Promise<void> {
  if (said === undefined) return;
  const spices = await rows<{ name: string }>(
    tx,
    sql`
    select distinct x.name from live_movement m join lot l on l.id = m.from_lot join material x on x.id = l.material_id where m.to_lot = ${brine.id} and x.kind not in ('water', 'salt')`,
  );
  if (said !== 'none' && spices.length === 0)
    throw refused(
      'brine.spicesUnknown',
      `Spices are said to be in ${brine.code}, and its book has none. Weigh them into the brine by their lot first: their allergens go wherever it goes.`,
      { field: 'spices' },
    );
  if (said === 'none' && spices.length > 0)
    throw refused(
      'brine.spicesUnknown',
      `${brine.code} has ${spices.map(({ name }) => name).join(', ')} in its book. It was in it: say “strained out”, or “still in it”.`,
      { field: 'spices' },
    );
}

export const brineJoined = kind('brine.join', {
  who: 'maker',
  words: 'Brine of another batch',
  does: 'what is left of a brine, whether it touched the product, whether spices are in it, and where a difference went; left-over brine into another batch; brine taken off a vessel and kept',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['preparation']);
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    if (from.form !== 'brine')
      throw refused('lot.wrongKind', `${from.code} is ${from.name}: it goes in as a starter, not as brine.`, {
        field: 'fromLotId',
      });
    must(decideBrineUse({ code: from.code, touched: from.touched, sameBatch: false }));
    must(checkMass({ grams: body.grams, what: 'brine', field: 'grams' }));
    const before = await batchState(tx, batch);
    if (before.waterGrams === 0)
      throw refused(
        'salt.nothingToSalt',
        'Weigh the trimmed produce of a brined formula first: the brine follows what it has to cover.',
        { field: 'grams' },
      );
    const { lotId: brineLotId } = await brineLot(recording, batch, before.brine, body.brineLotId, () =>
      nextPreparationCode(tx, batch),
    );
    await addMovements(recording, [
      { from: { lot: from }, to: { lotId: brineLotId }, grams: body.grams, field: 'grams' },
    ]);
    const state = await batchState(tx, batch);
    return {
      facts: { code: state.brine?.code, saltTargetGrams: state.targetGrams },
      lots: [batch.id, brineLotId, from.id],
    };
  },
  line: ({ entry, code }) => ({
    what: `Brine from ${code(entry.body.fromLotId)}`,
    words: 'left over, never touched its product',
    figure: formatGrams(entry.body.grams),
  }),
});
