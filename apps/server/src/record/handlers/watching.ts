import { and, eq, isNull } from 'drizzle-orm';
import { checkCelsius, checkMass, checkPh } from '@clear-tally/core';
import { hold, lotCount, reading, toMilligrams } from '../../db/schema/index.js';
import { addMovements, loadLot, openHold, refuseClosed } from '../lots.js';
import { must, refused } from '../refused.js';
import type { Handler } from '../handler.js';

export const phRead: Handler<'ph.read'> = async ({ tx, entry, body, seq, at }) => {
  const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
  const ph = must(checkPh({ ph: body.ph, confirmedUnusual: body.confirmedUnusual }));
  if (at < of.at) throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, { field: 'happenedAt' });
  await tx.insert(reading).values({ entryId: entry.id, rootEntryId: entry.id, seq, lotId: of.id, kind: 'ph', value: ph, sample: body.sample, at });
  return { lots: [of.id] };
};

export const temperatureRead: Handler<'temperature.read'> = async ({ tx, entry, body, seq, at }) => {
  const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
  const celsius = must(checkCelsius(body.celsius));
  if (at < of.at) throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, { field: 'happenedAt' });
  await tx.insert(reading).values({ entryId: entry.id, rootEntryId: entry.id, seq, lotId: of.id, kind: 'temperature', value: celsius, sample: null, at });
  return { lots: [of.id] };
};

export const holdPlace: Handler<'hold.place'> = async ({ tx, entry, body, at }) => {
  const of = await loadLot(tx, body.lotId, 'lotId');
  const already = await openHold(tx, of.id);
  if (already) throw refused('lot.onHold', `${of.code} is on hold already: ${already}.`, { field: 'lotId' });
  await tx.insert(hold).values({ entryId: entry.id, lotId: of.id, reason: body.reason, placedAt: at });
  return { lots: [of.id] };
};

export const holdLift: Handler<'hold.lift'> = async ({ tx, body, at }) => {
  const of = await loadLot(tx, body.lotId, 'lotId');
  const lifted = await tx.update(hold).set({ liftedAt: at, liftReason: body.reason }).where(and(eq(hold.lotId, of.id), isNull(hold.liftedAt))).returning({ id: hold.entryId });
  if (lifted.length === 0) throw refused('lot.notOnHold', `${of.code} is not on hold.`, { field: 'lotId' });
  return { lots: [of.id] };
};

export const lossRecord: Handler<'loss.record'> = async (recording) => {
  const { tx, body } = recording;
  const of = await loadLot(tx, body.lotId, 'lotId');
  refuseClosed(of, 'lotId');
  must(checkMass({ grams: body.grams, what: 'what is gone', field: 'grams' }));
  await addMovements(recording, [{ from: { lot: of }, to: { sink: body.sink }, grams: body.grams, field: 'grams' }]);
  return { lots: [of.id] };
};

export const lotCounted: Handler<'lot.count'> = async ({ tx, entry, body, seq, at }) => {
  const of = await loadLot(tx, body.lotId, 'lotId');
  refuseClosed(of, 'lotId');
  if (body.grams > 0) must(checkMass({ grams: body.grams, what: 'what stands there', field: 'grams' }));
  await tx.insert(lotCount).values({ entryId: entry.id, lotId: of.id, milligrams: toMilligrams(body.grams), byDifference: body.byDifference, at, seq });
  return { lots: [of.id] };
};
