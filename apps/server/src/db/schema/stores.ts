import { bigint, boolean, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { BodyOf } from '@clear-tally/contract';
import { bytea, decimal, moment } from './columns.js';

export const supplier = pgTable('supplier', {
  id: uuid().primaryKey(),
  name: text().notNull().unique(),
  prefix: text().notNull().unique(),
  lotsReceived: integer().notNull().default(0),
  ownPlot: boolean().notNull().default(false),
});

export const material = pgTable('material', {
  id: uuid().primaryKey(),
  name: text().notNull().unique(),
  kind: text({ enum: ['produce', 'salt', 'water', 'flavouring', 'starter', 'packaging'] }).notNull(),
  waterFraction: decimal().notNull(),
  saltFraction: decimal().notNull(),
  allergens: text().array().notNull(),
  caution: text(),
  details: jsonb().$type<NonNullable<BodyOf<'material.add'>['details']>>().notNull().default({}),
});

export const formula = pgTable(
  'formula',
  {
    formulaId: uuid().notNull(),
    version: integer().notNull(),
    number: integer().notNull(),
    name: text().notNull(),
    data: jsonb().$type<BodyOf<'formula.save'>>().notNull(),
    savedAt: moment().notNull(),
    by: uuid().notNull(),
  },
  (t) => [primaryKey({ columns: [t.formulaId, t.version] })],
);

/** Whether a formula is in use; without a row it is. */
export const formulaState = pgTable('formula_state', {
  formulaId: uuid().primaryKey(),
  retired: boolean().notNull(),
  reason: text(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** Pictures, kept beside the journal and named by what they hold. Never changed, never deleted. */
export const photo = pgTable('photo', {
  id: text().primaryKey(),
  type: text({ enum: ['image/jpeg', 'image/png'] }).notNull(),
  bytes: bytea().notNull(),
  at: moment().notNull(),
});
