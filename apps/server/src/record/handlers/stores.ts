import { eq } from 'drizzle-orm';
import { checkMass, supplyCode } from '@clear-tally/core';
import { material, supplier } from '../../db/schema/index.js';
import { addLot, addMovements } from '../lots.js';
import { must, refused } from '../refused.js';
import type { Handler } from '../handler.js';

export const supplierAdd: Handler<'supplier.add'> = async ({ tx, body }) => {
  await tx.insert(supplier).values({ id: body.supplierId, name: body.name, prefix: body.prefix });
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
  const number = from.lotsReceived + 1;
  await tx.update(supplier).set({ lotsReceived: number }).where(eq(supplier.id, from.id));
  const code = supplyCode(from.prefix, number);
  await addLot(recording, {
    id: body.lotId, code, kind: 'supply', name: what.name, origin: 'received', at, materialId: what.id, supplierId: from.id,
    supplierLotCode: body.supplierLotCode, useBy: body.useBy, metered: what.kind !== 'water',
  });
  await addMovements(recording, [{ from: { source: 'received' }, to: { lotId: body.lotId }, grams: body.grams }]);
  return { facts: { code }, lots: [body.lotId] };
};
