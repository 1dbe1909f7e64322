import { calendarDay, checkMass, decideUseBy, formatGrams, KEPT_BRINE } from '@clear-tally/core';
import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { type Transaction } from '../../db/database.js';
import { toGrams, toMilligrams } from '../../db/schema/columns.js';
import { house } from '../../db/schema/house.js';
import { liveMovement, lot, movement } from '../../db/schema/ledger.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { addLot, addMovements, balance, codeFor, loadLot, nextMovement, refuseClosed } from '../../lots/lots.js';
import { houseDay } from '../../lots/pastDate.js';
import { donorGeneration } from '../../lots/starters.js';
import { nextPreparationCode } from './nextPreparationCode.js';

export const brineKept = kind('brine.keep', {
  who: 'maker',
  words: 'Brine kept',
  does: 'what is left of a brine, whether it touched the product, whether spices are in it, and where a difference went; left-over brine into another batch; brine taken off a vessel and kept',
  correct: 'ledger',
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const fill = await loadLot(tx, body.fillLotId, 'fillLotId', ['fill']);
    refuseClosed(fill, 'fillLotId');
    const generation = await donorGeneration(tx, fill);
    must(checkMass({ grams: body.grams, what: 'brine', field: 'grams' }));
    const batch = await loadLot(tx, fill.batchId!, 'fillLotId', ['batch']);
    const code = codeFor(recording, body.lotId, await nextPreparationCode(tx, batch));
    const days = await keptDays(tx);
    const useBy = must(decideUseBy({ typed: body.useBy, latest: await lastDay(tx, at), days }));
    await addLot(recording, {
      id: body.lotId,
      code,
      kind: 'preparation',
      form: 'keptBrine',
      name: `Kept brine of ${fill.code}`,
      origin: 'made',
      at,
      batchId: batch.id,
      generation,
      useBy,
    });
    await addMovements(recording, [
      { from: { lot: fill }, to: { lotId: body.lotId }, grams: body.grams, field: 'grams' },
    ]);
    return { facts: { code, generation, useBy }, lots: [fill.id, body.lotId] };
  },
  line: ({ entry, facts }) => ({
    what: `Brine kept, ${String(facts['code'] ?? '')}`,
    words: `generation ${String(facts['generation'] ?? '')}, use by ${facts['useBy'] ? calendarDay(String(facts['useBy'])) : ''}`,
    figure: formatGrams(entry.body.grams),
  }),
});

/** Kept brine is good for 30 days cold, or what the house says. */
async function keptDays(tx: Transaction): Promise<number> {
  const [of] = await tx.select({ settings: house.settings }).from(house);
  return of?.settings.keptBrineDays ?? KEPT_BRINE.days;
}

/** The last day that brine kept from now on may be used, by the house's rule and its clock. */
export const lastDay = async (tx: Transaction, at: Date): Promise<string> =>
  houseDay(tx, new Date(at.getTime() + (await keptDays(tx)) * 86_400_000));

/** The rest of a weighing goes back before it met anything: the weighing stands with what really went in. */
export const remainderReturned = kind('remainder.return', {
  who: 'maker',
  words: 'Back to stock',
  does: 'the rest of a weighing back to its lot',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at, seq } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    must(checkMass({ grams: body.grams, what: 'what goes back', field: 'grams' }));
    const [live] = await tx
      .select()
      .from(liveMovement)
      .where(
        and(
          eq(liveMovement.rootEntryId, body.of),
          isNotNull(liveMovement.toLot),
          inArray(liveMovement.kind, ['produce.weigh', 'ingredient.add']),
        ),
      );
    if (!live?.fromLot || live.toLot !== batch.id)
      throw refused(
        'lot.unknown',
        'This weighing is not in the bowls of the batch. Choose it from the list of what was weighed.',
        { field: 'of' },
      );
    const was = toGrams(live.milligrams);
    if (body.grams >= was)
      throw refused(
        'lot.overdrawn',
        `${formatGrams(body.grams)} is as much as the ${formatGrams(was)} that was weighed, or more. Give the part that goes back.`,
        { field: 'grams', facts: { weighedGrams: was } },
      );
    const { atGrams, leastLaterGrams } = await balance(tx, batch, at);
    if (Math.min(atGrams, leastLaterGrams) < body.grams)
      throw refused(
        'lot.overdrawn',
        `Only ${formatGrams(atGrams)} is in the bowls; ${formatGrams(body.grams)} cannot go back from them.`,
        { field: 'grams' },
      );
    await tx.insert(movement).values({
      id: await nextMovement(recording),
      seq,
      rootEntryId: body.of,
      kind: live.kind,
      at: live.at,
      fromLot: live.fromLot,
      toLot: live.toLot,
      milligrams: toMilligrams(was - body.grams),
      cancels: live.id,
    });
    if (body.keepsUntil)
      await tx.update(lot).set({ state: 'opened', keepsUntil: body.keepsUntil }).where(eq(lot.id, live.fromLot));
    return { facts: { was, stays: was - body.grams }, lots: [batch.id, live.fromLot] };
  },
  line: () => ({ what: 'Back to stock', words: null }),
});
