import { bigint, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { Entry } from '@clear-tally/contract';
import { journal } from './journal.js';

/** What an entry is by its corrections: the newest counts. */
export const correction = pgTable('correction', {
  seq: bigint({ mode: 'number' })
    .primaryKey()
    .references(() => journal.seq),
  rootEntryId: uuid().notNull(),
  /** What it should have said; null: it never happened. */
  right: jsonb().$type<Pick<Entry, 'kind' | 'body' | 'happenedAt'>>(),
});

/** Rows as they stood before a correction took them back or changed them: nothing that was recorded is lost. */
export const takenBack = pgTable(
  'taken_back',
  {
    /** Of the correction. */
    seq: bigint({ mode: 'number' })
      .notNull()
      .references(() => journal.seq),
    number: integer().notNull(),
    relation: text().notNull(),
    was: jsonb().$type<Record<string, unknown>>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.seq, t.number] })],
);

/**
 * Rows as they were before an entry changed them, kept by trigger: what is needed to take that entry back. An aid, no
 * history: the journal has that.
 */
export const rowChange = pgTable(
  'row_change',
  {
    seq: bigint({ mode: 'number' }).notNull(),
    number: integer().notNull(),
    relation: text().notNull(),
    key: jsonb().notNull(),
    was: jsonb().$type<Record<string, unknown>>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.seq, t.number] })],
);
