import {
  checkMass,
  decideBrineUse,
  decideConfirmed,
  decideFill,
  decideSaltBeforeFill,
  decideVesselSalt,
  fillCode,
  formatGrams,
  type HoldRule,
  isWeak,
} from '@clear-tally/core';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { room, vessel } from '../../db/schema/house.js';
import { hold, lot, saltAcceptance } from '../../db/schema/ledger.js';
import { closing } from '../../db/schema/making.js';
import { ask, happened, heldPasses } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { saltOf } from '../../lots/contents.js';
import { listed } from '../../lots/lineWords.js';
import {
  addLot,
  addMovements,
  closeEmptied,
  codeFor,
  firstFree,
  loadLot,
  refuseClosed,
  refuseHeld,
} from '../../lots/lots.js';
import { laterSaid } from '../../lots/laterSaid.js';
import { saltConfirmation } from '../../lots/saltConfirmation.js';
import { openHolds } from '../../lots/openHolds.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';

export async function loadVessel(tx: Transaction, vesselId: string) {
  const [found] = await tx.select().from(vessel).where(eq(vessel.id, vesselId));
  if (!found)
    throw refused(
      'vessel.unknown',
      `No vessel ${vesselId} is known in this house. Choose it from the list, or add it first.`,
      { field: 'vesselId' },
    );
  const [standing] = await tx
    .select({ code: lot.code })
    .from(lot)
    .where(and(eq(lot.vesselId, vesselId), eq(lot.kind, 'fill'), isNull(lot.closedAt)));
  return {
    ...found,
    takenBy: standing?.code ?? null,
    rusts: found.details.material === 'rusts' && !happened(tx),
  };
}

export const vesselFill = kind('vessel.fill', {
  who: 'maker',
  words: 'Vessel filled',
  does: 'bowls and brine into a vessel; a lot of its own from here on; over the brim with `overReason`',
  correct: 'ledger',
  heeds: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const into = await loadVessel(tx, body.vesselId);
    const brine = body.brine ? await loadLot(tx, body.brine.brineLotId, 'brine', ['preparation']) : null;
    if (brine) await refuseHeld(tx, brine, 'brine');
    must(checkMass({ grams: body.grams, what: 'what is filled', field: 'grams' }));
    if (body.brine) must(checkMass({ grams: body.brine.grams, what: 'brine', field: 'brine' }));
    const grams = body.grams + (body.brine?.grams ?? 0);
    const fit = must(
      decideFill({
        vessel: into,
        grams,
        overReason: body.overReason ?? (happened(tx) ? 'as it was filled' : undefined),
      }),
    );
    const state = await batchState(tx, batch);
    ask(tx, decideSaltBeforeFill({ batch: state, acceptedReason: state.acceptedReason }));
    ask(tx, decideConfirmed(await saltConfirmation(tx, batch, state.brine?.lotId ?? batch.id)));
    if (brine)
      must(
        decideBrineUse({
          code: brine.code,
          touched: brine.form === 'brine' ? brine.touched : 'never',
          sameBatch: brine.batchId === batch.id,
        }),
      );
    const code = codeFor(recording, body.fillLotId, await freeFillCode(tx, batch.code, into.tag), into.id);
    await addLot(recording, {
      id: body.fillLotId,
      code,
      kind: 'fill',
      name: batch.name,
      origin: 'made',
      at,
      batchId: batch.id,
      formulaId: batch.formulaId,
      formulaVersion: batch.formulaVersion,
      vesselId: into.id,
    });
    // What holds the bowls holds what is filled out of them.
    await tx.execute(
      sql`insert into hold (entry_id, lot_id, reason, rule, cause_lot, placed_at) select entry_id, ${body.fillLotId}, ${batch.code} || ': ' || reason, 'upstream', coalesce(cause_lot, lot_id), placed_at from hold where lot_id = ${batch.id} and lifted_at is null`,
    );
    await addMovements(recording, [
      { from: { lot: batch }, to: { lotId: body.fillLotId }, grams: body.grams, field: 'grams' },
      ...(brine
        ? [{ from: { lot: brine }, to: { lotId: body.fillLotId }, grams: body.brine!.grams, field: 'brine' }]
        : []),
    ]);
    const scale = await weighOn(recording, { ...body, lotId: body.fillLotId });
    const salt = await saltOf(tx, body.fillLotId);
    ask(
      tx,
      decideVesselSalt({
        tag: into.tag,
        waterPhaseSalt: salt.waterPhase,
        isReviewer: recording.isOwner,
        reason: body.weakSaltReason,
        doing: 'why it is filled so',
      }),
    );
    if (body.weakSaltReason && isWeak(salt)) await acceptWeak(recording, body.fillLotId, body.weakSaltReason);
    return {
      facts: {
        code,
        fillFraction: fit.fillFraction,
        window: fit.window,
        waterPhaseSalt: salt.waterPhase,
        band: salt.band,
        ...scale,
      },
      lots: [batch.id, body.fillLotId, ...(brine ? [brine.id] : [])],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `Filled ${code(entry.body.vesselId)}`,
    words:
      [
        entry.body.brine && `${formatGrams(entry.body.brine.grams)} of it brine`,
        typeof facts['waterPhaseSalt'] === 'number' &&
          `${(facts['waterPhaseSalt'] * 100).toFixed(2)} % water-phase salt, ${String(facts['band'])}`,
        entry.body.weakSaltReason && `accepted: ${entry.body.weakSaltReason}`,
        entry.body.overReason && `over the brim: ${entry.body.overReason}`,
        onScale(facts),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatGrams(entry.body.grams + (entry.body.brine?.grams ?? 0)),
  }),
});

/** A reviewer's word on a vessel that stands weak: asked once, for the vessel as it stands. */
export async function acceptWeak(
  { tx, at, seq }: Pick<InHand, 'tx' | 'at' | 'seq'>,
  fillLotId: string,
  reason: string,
): Promise<void> {
  const row = { batchId: fillLotId, reason, at, seq };
  await tx.insert(saltAcceptance).values(row).onConflictDoUpdate({ target: saltAcceptance.batchId, set: row });
}

/** The same vessel can be filled twice by one batch, on different days: the second fill gets a number. */
export const freeFillCode = (tx: Transaction, batch: string, tag: string): Promise<string> =>
  firstFree(tx, (number) => fillCode(batch, number === 1 ? tag : `${tag}.${number}`));

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

/** The lid on. Said again when it is opened and closed anew; the book keeps every time. */
export const vesselClosed = kind('vessel.close', {
  who: 'maker',
  words: 'Vessel closed',
  does: 'the lid on, from room to room, labels printed',
  correct: 'book',
  record: async ({ tx, body, at, seq, isOwner: isReviewer }) => {
    const fill = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(fill, 'lotId');
    const [accepted] = await tx.select().from(saltAcceptance).where(eq(saltAcceptance.batchId, fill.id));
    const salt = await saltOf(tx, fill.id);
    ask(
      tx,
      decideVesselSalt({
        tag: fill.code,
        waterPhaseSalt: accepted ? null : salt.waterPhase,
        isReviewer,
        reason: body.weakSaltReason,
        doing: 'why it is closed so',
      }),
    );
    if (body.weakSaltReason && isWeak(salt)) await acceptWeak({ tx, at, seq }, fill.id, body.weakSaltReason);
    const row = {
      lotId: fill.id,
      closure: body.closure,
      headspaceMm: body.headspaceMm,
      weightItems: body.weightItems,
      tray: body.tray ? ('yes' as const) : ('no' as const),
      at,
      seq,
    };
    await tx.insert(closing).values(row).onConflictDoUpdate({ target: closing.lotId, set: row });
    return {
      facts: { weightsIn: body.weightItems.reduce((sum, item) => sum + item.count, 0) },
      lots: [fill.id, fill.batchId!],
    };
  },
  line: ({ entry }) => ({
    what: `Closed: ${entry.body.closure}`,
    words:
      [
        entry.body.headspaceMm === null ? null : `headspace ${entry.body.headspaceMm} mm`,
        ...entry.body.weightItems.map((item) => `${item.count} × ${item.what} in`),
        entry.body.tray ? 'tray under it' : null,
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const vesselMoved = kind('vessel.move', {
  who: 'maker',
  words: 'Vessel moved',
  does: 'the lid on, from room to room, labels printed',
  correct: 'book',
  record: async ({ tx, body, at }) => {
    const fill = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(fill, 'lotId');
    const [to] = await tx.select().from(room).where(eq(room.id, body.roomId));
    if (!to)
      throw refused('resource.unknown', 'This room is not known in this house. Choose one from the list.', {
        field: 'roomId',
      });
    const [from] = await tx
      .select({ name: room.name, id: room.id })
      .from(vessel)
      .innerJoin(room, eq(room.id, vessel.roomId))
      .where(eq(vessel.id, fill.vesselId!));
    // It was moved again since: where it stands now, that move said.
    const isPast = await laterSaid(tx, { lotId: fill.id, kind: 'vessel.move', at });
    if (isPast) return { facts: { from: from!.name, to: to.name }, lots: [fill.id] };
    if (from!.id === to.id)
      throw refused('correction.nothingChanged', `${fill.code} stands in ${to.name} already.`, { field: 'roomId' });
    await tx.update(vessel).set({ roomId: to.id }).where(eq(vessel.id, fill.vesselId!));
    return { facts: { from: from!.name, to: to.name }, lots: [fill.id] };
  },
  line: ({ facts }) => ({
    what: `Moved to ${String(facts['to'] ?? '')}`,
    words: `from ${String(facts['from'] ?? '')}`,
  }),
});
