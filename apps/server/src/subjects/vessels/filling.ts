import {
  checkMass,
  decideBrineUse,
  decideConfirmed,
  decideFill,
  decideSaltBeforeFill,
  decideVesselSalt,
  fillCode,
  formatGrams,
  isWeak,
} from '@clear-tally/core';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { vessel } from '../../db/schema/house.js';
import { lot, saltAcceptance } from '../../db/schema/ledger.js';
import { ask, happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { saltOf } from '../../lots/contents.js';
import { addLot, addMovements, codeFor, firstFree, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { saltConfirmation } from '../../lots/saltConfirmation.js';
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
  does: 'bowls and brine into a vessel; a lot of its own from here on; past its window with `overReason`',
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
        entry.body.overReason && `past its window: ${entry.body.overReason}`,
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
