import {
  brineCode,
  calendarDay,
  checkMass,
  decideBrineClosed,
  decideBrineUse,
  decideUseBy,
  formatGrams,
  KEPT_BRINE,
  PREPARATION_WORDS,
} from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { toGrams, toMilligrams } from '../../db/schema/columns.js';
import { house } from '../../db/schema/house.js';
import { lot, movement } from '../../db/schema/ledger.js';
import { ask, happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import {
  addLot,
  addMovements,
  balance,
  codeFor,
  firstFree,
  loadLot,
  type LotRow,
  nextMovement,
  refuseClosed,
  refuseHeld,
} from '../../lots/lots.js';
import { houseDay, refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { donorGeneration, generationOf, refuseTiredStarter } from '../../lots/starters.js';

/** The next preparation code of a batch: -b1, -b2 ... */
export async function nextPreparationCode(tx: Transaction, batch: LotRow): Promise<string> {
  const [row] = await rows<{ n: number }>(
    tx,
    sql`select count(*)::int as n from lot where batch_id = ${batch.id} and kind = 'preparation'`,
  );
  return firstFree(tx, (number) => brineCode(batch.code, number), (row?.n ?? 0) + 1);
}

/** Anything that goes into a preparation, checked as it would be for the bowls. */
async function loadPart(recording: InHand, fromLotId: string, batch: LotRow): Promise<LotRow> {
  const from = await loadLot(recording.tx, fromLotId, 'parts', ['supply', 'preparation', 'fill']);
  refuseClosed(from, 'parts');
  await refuseHeld(recording.tx, from, 'parts');
  await refusePast(recording.tx, from, recording.at, undefined);
  if (from.kind === 'fill') await donorGeneration(recording.tx, from);
  if (from.form === 'keptBrine' && !happened(recording.tx)) await refuseTiredStarter(recording.tx, from, recording.at);
  must(
    decideBrineUse({
      code: from.code,
      touched: from.form === 'brine' ? from.touched : 'never',
      sameBatch: from.batchId === batch.id,
    }),
  );
  return from;
}

export const preparationMade = kind('preparation.make', {
  who: 'maker',
  words: 'Preparation made',
  does: 'paste, porridge, purée, liquor, woken culture: weighed lots become a lot',
  correct: 'ledger',
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const parts: { from: LotRow; grams: number }[] = [];
    for (const part of body.parts) {
      const from = await loadPart(recording, part.fromLotId, batch);
      must(checkMass({ grams: part.grams, what: from.name, field: 'parts' }));
      parts.push({ from, grams: part.grams });
    }
    const total = parts.reduce((sum, part) => sum + part.grams, 0);
    if (body.boiledOffGrams >= total)
      throw refused(
        'lot.overdrawn',
        `${formatGrams(body.boiledOffGrams)} boiled off is all of the ${formatGrams(total)} that went in. Weigh what is left.`,
        { field: 'boiledOffGrams' },
      );
    const code = codeFor(recording, body.lotId, await nextPreparationCode(tx, batch));
    await addLot(recording, {
      id: body.lotId,
      code,
      kind: 'preparation',
      form: body.form,
      name: body.name,
      origin: 'made',
      at,
      batchId: batch.id,
    });
    await addMovements(
      recording,
      parts.map(({ from, grams }) => ({ from: { lot: from }, to: { lotId: body.lotId }, grams, field: 'parts' })),
    );
    if (body.boiledOffGrams > 0)
      await addMovements(recording, [
        {
          from: { lot: await loadLot(tx, body.lotId, 'lotId') },
          to: { sink: 'evaporation' },
          grams: body.boiledOffGrams,
          field: 'boiledOffGrams',
        },
      ]);
    const heaviest = Math.max(...parts.map(({ grams }) => grams));
    const scale = await weighOn(recording, { ...body, grams: heaviest, lotId: body.lotId });
    return {
      facts: { code, grams: total - body.boiledOffGrams, form: PREPARATION_WORDS[body.form], ...scale },
      lots: [batch.id, body.lotId, ...parts.map(({ from }) => from.id)],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${String(facts['form'] ?? 'Preparation')} made, ${String(facts['code'] ?? '')}`,
    words: `${entry.body.name}: ${entry.body.parts.map((part) => `${code(part.fromLotId)} ${formatGrams(part.grams)}`).join(', ')}${entry.body.boiledOffGrams > 0 ? ` · ${formatGrams(entry.body.boiledOffGrams)} boiled off` : ''}${onScale(facts) ? ` · ${onScale(facts)}` : ''}`,
    figure: formatGrams(entry.body.parts.reduce((sum, part) => sum + part.grams, -entry.body.boiledOffGrams)),
  }),
});

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
    const { tx, body, at } = recording;
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
    const brineLotId = before.brine?.lotId ?? body.brineLotId;
    if (!before.brine)
      await addLot(recording, {
        id: brineLotId,
        code: codeFor(recording, brineLotId, await nextPreparationCode(tx, batch)),
        kind: 'preparation',
        form: 'brine',
        name: 'Brine',
        origin: 'made',
        at,
        batchId: batch.id,
      });
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

const lastDay = async (tx: Transaction, at: Date): Promise<string> =>
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
    const [live] = await rows<{ id: string; kind: string; at: Date; fromLot: string; toLot: string; mg: string }>(
      tx,
      sql`
    select id, kind, at, from_lot as "fromLot", to_lot as "toLot", milligrams as mg from live_movement where root_entry_id = ${body.of} and to_lot is not null and kind in ('produce.weigh', 'ingredient.add')`,
    );
    if (live?.toLot !== batch.id)
      throw refused(
        'lot.unknown',
        'This weighing is not in the bowls of the batch. Choose it from the list of what was weighed.',
        { field: 'of' },
      );
    const was = toGrams(live.mg);
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
      at: new Date(live.at),
      fromLot: live.fromLot,
      toLot: live.toLot,
      milligrams: toMilligrams(was - body.grams),
      cancels: Number(live.id),
    });
    if (body.keepsUntil)
      await tx.update(lot).set({ state: 'opened', keepsUntil: body.keepsUntil }).where(eq(lot.id, live.fromLot));
    return { facts: { was, stays: was - body.grams }, lots: [batch.id, live.fromLot] };
  },
  line: () => ({ what: 'Back to stock', words: null }),
});
