import { z } from 'zod';
import { SALT_BASES, SCALE_BY } from '@clear-tally/core';
import { entryOf, fraction, grams, id, text } from './shape.js';

export const FORMULA_STYLES = ['dryShred', 'brinedWhole', 'brinedMash'] as const;

export const formulaVersion = z.strictObject({
  formulaId: id,
  number: z.int().min(1).max(999),
  version: z.int().min(1).max(999),
  name: text(120),
  style: z.enum(FORMULA_STYLES),
  produce: z.array(z.strictObject({ materialId: id, share: fraction })).min(1).max(12),
  saltBasis: z.enum(SALT_BASES),
  saltFraction: fraction,
  /** Grams of water poured per gram of trimmed produce; 0 for dry salting. */
  waterPerProduce: z.number().min(0).max(5),
  lines: z.array(z.strictObject({ materialId: id, scaleBy: z.enum(SCALE_BY), amount: z.number().positive() })).max(40),
  solidsFraction: fraction.gt(0).max(1),
  yields: z.strictObject({ trim: fraction.gt(0).max(1), ferment: fraction.gt(0).max(1), pack: fraction.gt(0).max(1) }),
  jarSizes: z.array(z.strictObject({ sizeMl: z.int().min(20).max(20_000), fillGrams: grams.positive() })).min(1).max(8),
  usualDays: z.int().min(1).max(800),
  note: text(1000).nullable(),
});

export const formulaSave = entryOf('formula.save', formulaVersion);
