import type { BodyOf } from '@clear-tally/contract';
import { bigint, boolean, check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { moment } from './columns.js';
import { lot } from './ledger.js';

/** How labels of jars look; the last row of a design counts. */
export const labelDesign = pgTable(
  'label_design',
  {
    entryId: uuid().primaryKey(),
    designId: uuid().notNull(),
    name: text().notNull(),
    /** Null: for every jar of the house. */
    formulaId: uuid(),
    design: jsonb().$type<BodyOf<'label.design'>['design']>().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.designId, t.seq)],
);

/** Labels of jars that came out. */
export const jarLabel = pgTable(
  'jar_label',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    designId: uuid().notNull(),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    printer: text(),
    reason: text(),
    labelLotId: uuid().references(() => lot.id),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    index().on(t.runLotId, t.at),
    index().on(t.labelLotId),
    check('jar_label_order', sql`${t.lastSerial} >= ${t.firstSerial}`),
  ],
);

/** Where the labels of a run are. The last count counts. */
export const labelTally = pgTable(
  'label_tally',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    used: integer().notNull(),
    spoiled: integer().notNull(),
    back: integer().notNull(),
    reason: text(),
    clear: boolean().notNull(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.at)],
);
