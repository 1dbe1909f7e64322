import { DOOR_STATES, STOCK_UNITS, SUPPLY_STATES, STANDS_FOR_KEYS } from '@clear-tally/core';
import { z } from 'zod';
import { day, entryOf, grams, id, iso, photoId, text } from './shape.js';

export const supplierAdd = entryOf(
  'supplier.add',
  z.strictObject({
    supplierId: id,
    name: text(120),
    /** Head of the codes of this supplier's lots. */
    prefix: z.string().regex(/^[A-Z]{2,3}$/, 'two or three capital letters'),
    /** A field or garden of the house's own. */
    ownPlot: z.boolean().optional(),
  }),
);

/** What was seen at the door, where its material asks for it. */
export const atDoor = z.strictObject({
  variety: text(80).nullish(),
  state: z.enum(DOOR_STATES).nullish(),
  /** Of the goods, °C. */
  celsius: z.number().min(-40).max(60).nullish(),
});

const supplyLine = z.strictObject({
  lotId: id,
  materialId: id,
  supplierId: id,
  supplierLotCode: text(60),
  /** Grams; of packaging, pieces. */
  grams,
  useBy: day.nullable(),
  condition: text(300).nullable(),
  door: atDoor.nullish(),
  /** Of the line, in the house's currency. */
  cost: z.number().min(0).max(99_999).nullish(),
  /** Sent back at the door, out of `grams`. */
  rejected: z.strictObject({ grams, reason: text(300) }).nullish(),
});

export const supplyReceive = entryOf('supply.receive', supplyLine);

/** Lines that came together, with their paper: received together or not at all. */
export const deliveryReceive = entryOf(
  'delivery.receive',
  z.strictObject({
    deliveryId: id,
    reference: text(80).nullable(),
    /** SHA-256 of the photo of its paper. */ photo: photoId.nullish(),
    lines: z.array(supplyLine).min(1).max(400),
  }),
);

/** What stands there; the ledger is put right to it, a larger difference with its reason. */
export const stockCount = entryOf('stock.count', z.strictObject({ lotId: id, grams, reason: text(300).nullable() }));

/** Opened, frozen, thawed, dried, and until when it keeps then. */
export const supplyState = entryOf(
  'supply.state',
  z.strictObject({ lotId: id, state: z.enum(SUPPLY_STATES), keepsUntil: day.nullable() }),
);

export const supplyLot = z.strictObject({
  lotId: id,
  code: z.string(),
  materialId: id,
  materialName: z.string(),
  supplierName: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  onHandGrams: z.number().nullable(),
  receivedAt: iso,
  useBy: z.string().nullable(),
  hold: z.string().nullable(),
  /** The day it is to be used by, from both dates and what was done to it. */
  until: z.string().nullable(),
  keeps: z.enum(['noDate', 'keeps', 'soon', 'past']),
  days: z.int().nullable(),
  state: z.enum(SUPPLY_STATES),
  unit: z.enum(STOCK_UNITS),
  /** What its material stands for in the house’s own work: vinegar, a thickener, what is sweet. */
  standsFor: z.enum(STANDS_FOR_KEYS).nullable(),
});

export const suppliesReply = z.strictObject({ lots: z.array(supplyLot) });

export const stockReply = z.strictObject({
  today: z.string(),
  lots: z.array(
    supplyLot.extend({
      kind: z.string(),
      cost: z.number().nullable(),
      reference: z.string().nullable(),
      condition: z.string().nullable(),
      door: atDoor.nullable(),
      keepsUntil: z.string().nullable(),
      photo: z.string().nullable(),
    }),
  ),
  low: z.array(
    z.strictObject({
      materialId: id,
      name: z.string(),
      onHandGrams: z.number(),
      lowStockGrams: z.number(),
      unit: z.enum(STOCK_UNITS),
    }),
  ),
});

export type SupplyLot = z.infer<typeof supplyLot>;

export type StockReply = z.infer<typeof stockReply>;

export type SuppliesReply = z.infer<typeof suppliesReply>;
