import { z } from 'zod';
import { FORM_KEYS, GRAIN_KEYS, PRODUCE_GROUPS, STANDS_FOR_KEYS, SUPPLY_STATES } from '@clear-tally/core';
import { entryOf, fraction, grams, id, photoId, text, day } from './shape.js';

export const MATERIAL_KINDS = ['produce', 'salt', 'water', 'flavouring', 'starter', 'packaging'] as const;

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

/** What a house knows of a material beyond its water and salt; each one may be unknown. */
export const materialDetails = z.strictObject({
  group: z.enum(PRODUCE_GROUPS).nullish(),
  /** What it stands for in the house's own work. */
  standsFor: z.enum(STANDS_FOR_KEYS).nullish(),
  form: z.enum(FORM_KEYS).nullish(),
  /** True density: what it displaces. */
  gramsPerMl: z.number().min(0.05).max(3).nullish(),
  trimYield: fraction.gt(0).max(1).nullish(),
  pieceGrams: grams.positive().max(50_000).nullish(),
  pieceName: text(40).nullish(),
  mayContain: z.array(text(40)).max(14).optional(),
  /** Said by a person not to be in it, although its name speaks of it. */
  notAllergens: z.array(text(40)).max(14).optional(),
  /** vegan, honey, milk, fish ... */
  diet: z.array(text(30)).max(8).optional(),
  /** Brings a red of its own: a red brine or a pink piece is its colour. */
  red: z.boolean().optional(),
  /** Contents of a bought compound, from its label. */
  contents: text(500).nullish(),
  costPerKg: z.number().min(0).max(100_000).nullish(),
  sugarPerKg: z.number().min(0).max(1000).nullish(),
  grain: z.enum(GRAIN_KEYS).nullish(),
  purity: fraction.min(0.5).max(1).nullish(),
  iodised: z.boolean().optional(),
  antiCaking: z.boolean().optional(),
  gramsPer15Ml: grams.min(2).max(40).nullish(),
  /** Weighed in this house, not taken from a table. */
  spoonWeighed: z.boolean().optional(),
  /** Under this on hand it is marked low. */
  lowStockGrams: grams.min(0).max(2_000_000).nullish(),
  /** Days an opened one keeps. */
  keepsOpenedDays: z.int().min(0).max(2000).nullish(),
  /** Of water: filtered, boiled and cooled. */
  treatment: text(200).nullish(),
});

const materialBody = z.strictObject({
  materialId: id,
  name: text(120),
  kind: z.enum(MATERIAL_KINDS),
  waterFraction: fraction.min(0).max(1),
  saltFraction: fraction.min(0).max(1),
  allergens: z.array(text(40)).max(14),
  /** Something to mind at the bench, such as an anti-caking agent. */
  caution: text(300).nullable(),
  details: materialDetails.optional(),
});

export const materialAdd = entryOf('material.add', materialBody);
/** What is known now; what was computed before keeps what was known then. */
export const materialChange = entryOf('material.change', materialBody);

const supplyLine = z.strictObject({
  lotId: id,
  materialId: id,
  supplierId: id,
  supplierLotCode: text(60),
  /** Grams; of packaging, pieces. */
  grams,
  useBy: day.nullable(),
  condition: text(300).nullable(),
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
