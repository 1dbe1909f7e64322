import { and, eq, isNull } from 'drizzle-orm';
import { checkMass, decideFill, decideSaltBeforeFill, fillCode } from '@clear-tally/core';
import { lot, vessel } from '../../db/schema/index.js';
import type { Transaction } from '../../db/database.js';
import { batchState } from '../batchSalt.js';
import { addLot, addMovements, loadLot, refuseClosed, refuseHeld } from '../lots.js';
import { must, refused } from '../refused.js';
import type { Handler } from '../handler.js';

export async function loadVessel(tx: Transaction, vesselId: string) {
  const [found] = await tx.select().from(vessel).where(eq(vessel.id, vesselId));
  if (!found) throw refused('vessel.unknown', `No vessel ${vesselId} is known in this house. Choose it from the list, or add it first.`, { field: 'vesselId' });
  const [standing] = await tx.select({ code: lot.code }).from(lot).where(and(eq(lot.vesselId, vesselId), eq(lot.kind, 'fill'), isNull(lot.closedAt)));
  return { ...found, takenBy: standing?.code ?? null };
}

export const vesselFill: Handler<'vessel.fill'> = async (recording) => {
  const { tx, body, at } = recording;
  const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
  refuseClosed(batch, 'batchId');
  const into = await loadVessel(tx, body.vesselId);
  const brine = body.brine ? await loadLot(tx, body.brine.brineLotId, 'brine', ['preparation']) : null;
  if (brine) await refuseHeld(tx, brine, 'brine');
  must(checkMass({ grams: body.grams, what: 'what is filled', field: 'grams' }));
  if (body.brine) must(checkMass({ grams: body.brine.grams, what: 'brine', field: 'brine' }));
  const grams = body.grams + (body.brine?.grams ?? 0);
  const fit = must(decideFill({ vessel: into, grams }));
  const state = await batchState(tx, batch);
  must(decideSaltBeforeFill({ batch: state, acceptedReason: state.acceptedReason }));
  const code = await freeFillCode(tx, batch.code, into.tag);
  await addLot(recording, {
    id: body.fillLotId, code, kind: 'fill', name: batch.name, origin: 'made', at, batchId: batch.id, formulaId: batch.formulaId, formulaVersion: batch.formulaVersion, vesselId: into.id,
  });
  await addMovements(recording, [
    { from: { lot: batch }, to: { lotId: body.fillLotId }, grams: body.grams, field: 'grams' },
    ...(brine ? [{ from: { lot: brine }, to: { lotId: body.fillLotId }, grams: body.brine!.grams, field: 'brine' }] : []),
  ]);
  return { facts: { code, fillFraction: fit.fillFraction, window: fit.window }, lots: [batch.id, body.fillLotId, ...(brine ? [brine.id] : [])] };
};

/** The same vessel can be filled twice by one batch, on different days: the second fill gets a number. */
async function freeFillCode(tx: Transaction, batch: string, tag: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const code = fillCode(batch, number === 1 ? tag : `${tag}.${number}`);
    const [taken] = await tx.select({ id: lot.id }).from(lot).where(eq(lot.code, code));
    if (!taken) return code;
  }
}

/** A merge or a top-up from a sister vessel: what is taken out later inherits both. */
export const lotTransfer: Handler<'lot.transfer'> = async (recording) => {
  const { tx, body } = recording;
  const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill', 'preparation']);
  const to = await loadLot(tx, body.toLotId, 'toLotId', ['fill']);
  if (from.id === to.id) throw refused('lot.wrongKind', `${from.code} cannot be topped up from itself.`, { field: 'fromLotId' });
  refuseClosed(from, 'fromLotId');
  refuseClosed(to, 'toLotId');
  await refuseHeld(tx, from, 'fromLotId');
  must(checkMass({ grams: body.grams, field: 'grams' }));
  await addMovements(recording, [{ from: { lot: from }, to: { lotId: to.id }, grams: body.grams, field: 'grams' }]);
  return { lots: [from.id, to.id] };
};
