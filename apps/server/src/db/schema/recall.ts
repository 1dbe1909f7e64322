import type { Answer, ComplaintKind, ComplaintOutcome, RecallScope } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { bigint, boolean, check, index, integer, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { moment } from './columns.js';
import { lot } from './ledger.js';

/** A recall or a drill. What it reaches is fixed when it is opened; where its jars are is read from their moves. */
export const recall = pgTable(
  'recall',
  {
    id: uuid().primaryKey(),
    code: text().notNull(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    scope: text().$type<RecallScope>().notNull(),
    carryOver: boolean().notNull(),
    drill: boolean().notNull(),
    reason: text().notNull(),
    source: text(),
    heardAt: moment().notNull(),
    by: uuid().notNull(),
    at: moment().notNull(),
    closedAt: moment(),
    closedBy: uuid(),
    outcome: text(),
    restReason: text(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.lotId)],
);

/** Every lot a recall reaches, as it was when it was opened. */
export const recallLot = pgTable(
  'recall_lot',
  {
    recallId: uuid()
      .notNull()
      .references(() => recall.id),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    carryOver: boolean().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.recallId, t.lotId] }), index().on(t.lotId)],
);

/** Word that went out, and what was answered. `place`: a customer, or how jars are gone. */
export const recallNote = pgTable(
  'recall_note',
  {
    entryId: uuid().notNull(),
    number: integer().notNull(),
    recallId: uuid()
      .notNull()
      .references(() => recall.id),
    what: text().$type<'notice' | 'answer'>().notNull(),
    place: text().notNull(),
    how: text(),
    words: text(),
    answer: text().$type<Answer>(),
    count: integer(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.entryId, t.number] }),
    index().on(t.recallId, t.at),
    check('recall_note_count', sql`${t.count} is null or ${t.count} > 0`),
  ],
);

/** What somebody complained of. Who it was stands apart, in complaint_contact. */
export const complaint = pgTable(
  'complaint',
  {
    id: uuid().primaryKey(),
    code: text().notNull(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    serial: integer(),
    what: text().$type<ComplaintKind>().notNull(),
    words: text().notNull(),
    photo: text(),
    held: boolean().notNull(),
    noHoldReason: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    closedAt: moment(),
    closedBy: uuid(),
    outcome: text().$type<ComplaintOutcome>(),
    outcomeWords: text(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId)],
);

/** Who complained: beside the journal, so that it can be deleted for good. */
export const complaintContact = pgTable('complaint_contact', {
  complaintId: uuid().primaryKey(),
  words: text().notNull(),
});
