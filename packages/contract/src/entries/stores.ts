import { z } from 'zod';
import { entryOf, fraction, grams, id, text } from './shape.js';

export const MATERIAL_KINDS = ['produce', 'salt', 'water', 'flavouring', 'starter'] as const;

export const supplierAdd = entryOf('supplier.add', z.strictObject({
  supplierId: id,
  name: text(120),
  /** Head of the codes of this supplier's lots. */
  prefix: z.string().regex(/^[A-Z]{2,3}$/, 'two or three capital letters'),
}));

export const materialAdd = entryOf('material.add', z.strictObject({
  materialId: id,
  name: text(120),
  kind: z.enum(MATERIAL_KINDS),
  waterFraction: fraction.min(0).max(1),
  saltFraction: fraction.min(0).max(1),
  allergens: z.array(text(40)).max(14),
  /** Something to mind at the bench, such as an anti-caking agent. */
  caution: text(300).nullable(),
}));

export const supplyReceive = entryOf('supply.receive', z.strictObject({
  lotId: id,
  materialId: id,
  supplierId: id,
  supplierLotCode: text(60),
  grams,
  useBy: z.iso.date().nullable(),
  condition: text(300).nullable(),
}));
