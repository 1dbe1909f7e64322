import { bigint, boolean, check, index, integer, jsonb, pgTable, primaryKey, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { moment } from './columns.js';
import { room } from './house.js';
import { lot } from './ledger.js';

/** What was looked at while a run was packed: jars weighed as they were filled, the line clear before it. */
export const packingNote = pgTable('packing_note', {
  runLotId: uuid()
    .primaryKey()
    .references(() => lot.id),
  weights: jsonb().$type<{ sizeMl: number; grams: number[] }[]>().notNull(),
  cleared: boolean().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** Jars, lids and inserts by lot, and which jars of the run carry them. */
export const closureLot = pgTable(
  'closure_lot',
  {
    entryId: uuid().notNull(),
    number: integer().notNull(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    pieces: integer().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.entryId, t.number] }),
    index().on(t.runLotId),
    index().on(t.lotId),
    check('closure_lot_order', sql`${t.lastSerial} >= ${t.firstSerial}`),
  ],
);

/** Jars kept to be tasted over the shelf life, and when. */
export const retainedJar = pgTable(
  'retained_jar',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    roomId: uuid()
      .notNull()
      .references(() => room.id),
    tasteAt: moment().array().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId)],
);
