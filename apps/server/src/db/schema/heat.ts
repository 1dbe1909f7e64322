import type { BodyOf } from '@clear-tally/contract';
import type { HeatLimits } from '@clear-tally/core';
import { bigint, check, date, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { moment } from './columns.js';
import { lot } from './ledger.js';

/** Scheduled processes on file, each as its authority set it. */
export const heatProcess = pgTable('heat_process', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  formulaId: uuid(),
  limits: jsonb().$type<HeatLimits>().notNull(),
  critical: text(),
  issuer: text().notNull(),
  issuedOn: date({ mode: 'string' }).notNull(),
  validUntil: date({ mode: 'string' }),
  document: text(),
  ended: text(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** What is written down of a load. */
export type LoadRecord = Omit<BodyOf<'heat.load'>, 'loadId' | 'runLotId' | 'processId' | 'first' | 'last' | 'note'>;

export const heatLoad = pgTable(
  'heat_load',
  {
    id: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    processId: uuid()
      .notNull()
      .references(() => heatProcess.id),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    record: jsonb().$type<LoadRecord>().notNull(),
    note: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.at), check('heat_load_order', sql`${t.lastSerial} >= ${t.firstSerial}`)],
);

/** Seals of a load, looked at. The last look counts. */
export const sealTest = pgTable(
  'seal_test',
  {
    entryId: uuid().primaryKey(),
    loadId: uuid()
      .notNull()
      .references(() => heatLoad.id),
    failed: integer().array().notNull(),
    became: text({ enum: ['chilled', 'thrownOut'] }),
    note: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.loadId, t.at)],
);
