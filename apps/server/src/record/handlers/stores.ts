import { eq } from 'drizzle-orm';
import { checkMass, decideCount, formatGrams, supplyCode } from '@clear-tally/core';
import { lot, material, supplier } from '../../db/schema/index.js';
import { addLot, addMovements, balance, loadLot } from '../lots.js';
import { must, refused } from '../refused.js';
import type { Handler } from '../handler.js';

export const supplierAdd: Handler<'supplier.add'> = async ({ tx, body }) => {
  await tx.insert(supplier).values({ id: body.supplierId, name: body.name, prefix: body.prefix, ownPlot: body.ownPlot ?? false });
  return {};
};

export const materialAdd: Handler<'material.add'> = async ({ tx, body }) => {
  const { materialId, ...row } = body;
  await tx.insert(material).values({ id: materialId, ...row });
  return {};
};

/** Properties change as more is known; a material's kind does not, because lots stand under it. */
export const materialChange: Handler<'material.change'> = async ({ tx, body }) => {
  const { materialId, ...row } = body;
  const [known] = await tx.select().from(material).where(eq(material.id, materialId));
  if (!known) throw refused('material.unknown', 'This material is not known in this house. Add it first.', { field: 'materialId' });
  if (known.kind !== row.kind) throw refused('lot.wrongKind', `${known.name} is ${known.kind}, and stays so: its lots are kept under that. Add another material instead.`, { field: 'kind' });
  await tx.update(material).set({ ...row, details: row.details ?? known.details }).where(eq(material.id, materialId));
  return {};
};

/** A delivery becomes a supply lot with a code of the house beside the supplier's own. */
export const supplyReceive: Handler<'supply.receive'> = async (recording) => {
  const { tx, body, at } = recording;
  const [what] = await tx.select().from(material).where(eq(material.id, body.materialId));
  if (!what) throw refused('lot.unknown', 'This material is not known in this house. Choose it from the list.', { field: 'materialId' });
  const [from] = await tx.select().from(supplier).where(eq(supplier.id, body.supplierId)).for('update');
  if (!from) throw refused('lot.unknown', 'This supplier is not known in this house. Choose one from the list.', { field: 'supplierId' });
  must(checkMass({ grams: body.grams, what: what.name, field: 'grams' }));
  if (body.rejected) {
    must(checkMass({ grams: body.rejected.grams, what: 'what is sent back', field: 'rejected.grams' }));
    if (body.rejected.grams > body.grams) throw refused('lot.overdrawn', `${formatGrams(body.rejected.grams)} is more than the ${formatGrams(body.grams)} that came. What is sent back is part of it.`, { field: 'rejected.grams' });
  }
  const number = from.lotsReceived + 1;
  await tx.update(supplier).set({ lotsReceived: number }).where(eq(supplier.id, from.id));
  const code = supplyCode(from.prefix, number);
  await addLot(recording, {
    id: body.lotId, code, kind: 'supply', name: what.name, origin: 'received', at, materialId: what.id, supplierId: from.id,
    supplierLotCode: body.supplierLotCode, useBy: body.useBy, metered: what.kind !== 'water', cost: body.cost, reference: body.reference, condition: body.condition,
  });
  await addMovements(recording, [{ from: { source: 'received' }, to: { lotId: body.lotId }, grams: body.grams }]);
  if (body.rejected) await addMovements(recording, [{ from: { lot: await loadLot(tx, body.lotId, 'lotId') }, to: { sink: 'returned' }, grams: body.rejected.grams, field: 'rejected.grams' }]);
  return { facts: { code }, lots: [body.lotId] };
};

/** The ledger is put right to what was counted; nothing is overwritten: the difference is a movement of its own. */
export const stockCounted: Handler<'stock.count'> = async (recording) => {
  const { tx, body, at } = recording;
  const of = await loadLot(tx, body.lotId, 'lotId', ['supply']);
  if (!of.metered) throw refused('lot.wrongKind', `${of.code} is a tap: it is not counted down.`, { field: 'lotId' });
  const { atGrams } = await balance(tx, of, at);
  const { differenceGrams } = must(decideCount({ code: of.code, expectedGrams: atGrams, countedGrams: body.grams, reason: body.reason }));
  // Less than a milligram is no movement.
  if (differenceGrams >= 0.001) await addMovements(recording, [{ from: { source: 'countDifference' }, to: { lotId: of.id }, grams: differenceGrams }]);
  if (differenceGrams <= -0.001) await addMovements(recording, [{ from: { lot: of }, to: { sink: 'countDifference' }, grams: -differenceGrams, field: 'grams' }]);
  return { facts: { expectedGrams: atGrams, differenceGrams }, lots: [of.id] };
};

export const supplyStated: Handler<'supply.state'> = async ({ tx, body }) => {
  const of = await loadLot(tx, body.lotId, 'lotId', ['supply']);
  await tx.update(lot).set({ state: body.state, keepsUntil: body.keepsUntil }).where(eq(lot.id, of.id));
  return { facts: { from: of.state }, lots: [of.id] };
};
