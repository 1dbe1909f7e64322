import { FINISHES } from '@clear-tally/core';
import { bigint, boolean, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { decimal, milligrams, moment } from './columns.js';
import { lot } from './ledger.js';

/** A lot that came of vessels to be finished: what is done with it. */
export const finish = pgTable('finish', {
  lotId: uuid()
    .primaryKey()
    .references(() => lot.id),
  what: text({ enum: FINISHES }).notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

export const drying = pgTable(
  'drying',
  {
    entryId: uuid().primaryKey(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    celsius: decimal().notNull(),
    hours: decimal().notNull(),
    leftMilligrams: milligrams().notNull(),
    waterActivity: decimal(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.lotId, t.seq)],
);

/** Bottles that settled: levelled, and closed for good. */
export const runLevelling = pgTable(
  'run_levelling',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    bottle: integer(),
    capped: boolean().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.seq)],
);
