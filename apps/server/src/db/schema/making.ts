import { sql } from 'drizzle-orm';
import { bigint, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { decimal, milligrams, moment } from './columns.js';
import { lot } from './ledger.js';

/** Steps of the run sheet begun, finished, skipped. A step is finished once. */
export const stepMark = pgTable(
  'step_mark',
  {
    entryId: uuid().primaryKey(),
    batchId: uuid()
      .notNull()
      .references(() => lot.id),
    step: text().notNull(),
    what: text({ enum: ['begin', 'finish', 'skip'] }).notNull(),
    by: uuid().notNull(),
    at: moment().notNull(),
    minutes: decimal(),
    unchecked: text()
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    note: text(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    index().on(t.batchId, t.seq),
    uniqueIndex('step_ended_once')
      .on(t.batchId, t.step)
      .where(sql`${t.what} <> 'begin'`),
  ],
);

/** Formula lines ticked or left out; the last answer counts. */
export const lineMark = pgTable(
  'line_mark',
  {
    batchId: uuid()
      .notNull()
      .references(() => lot.id),
    line: text().notNull(),
    how: text({ enum: ['ticked', 'leftOut'] }).notNull(),
    reason: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.batchId, t.line] })],
);

/** Timers run here, not in a tablet: a reload, an empty battery or a restart takes none of them. */
export const timer = pgTable(
  'timer',
  {
    id: uuid().primaryKey(),
    batchId: uuid().references(() => lot.id),
    step: text(),
    words: text().notNull(),
    minutes: decimal().notNull(),
    startedAt: moment().notNull(),
    by: uuid().notNull(),
    stoppedAt: moment(),
  },
  (t) => [
    index('timer_running')
      .on(t.startedAt)
      .where(sql`${t.stoppedAt} is null`),
  ],
);

export const saltConfirmation = pgTable('salt_confirmation', {
  batchId: uuid()
    .primaryKey()
    .references(() => lot.id),
  by: uuid().notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** What was done to a heavily salted leaf: turned, rinsed, drained, measured, tasted. */
export const leafLog = pgTable(
  'leaf_log',
  {
    entryId: uuid().primaryKey(),
    batchId: uuid()
      .notNull()
      .references(() => lot.id),
    what: text({ enum: ['turn', 'rinse', 'drain'] }).notNull(),
    waterMilligrams: milligrams(),
    drainedMilligrams: milligrams(),
    /** As measured, or as estimated when `how` says so. */
    waterPhaseSalt: decimal(),
    how: text(),
    tasted: text({ enum: ['tooSalty', 'between', 'tooWeak'] }),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.batchId, t.seq)],
);

export const labelPrinted = pgTable(
  'label_printed',
  {
    entryId: uuid().notNull(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    copies: integer().notNull(),
    printer: text(),
    at: moment().notNull(),
  },
  (t) => [primaryKey({ columns: [t.entryId, t.lotId] }), index().on(t.lotId)],
);

/** How a filled vessel was closed; the last time counts. */
export const closing = pgTable('closing', {
  lotId: uuid()
    .primaryKey()
    .references(() => lot.id),
  closure: text().notNull(),
  headspaceMm: decimal(),
  weightItems: jsonb().$type<{ what: string; count: number; grams: number | null }[]>().notNull(),
  tray: text({ enum: ['yes', 'no'] }).notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});
