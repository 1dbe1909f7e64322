import { sql } from 'drizzle-orm';
import { bigint, index, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { moment } from './columns.js';

/** Every entry as it was recorded, each chained to the one before. Append only, by grants and by trigger. */
export const journal = pgTable(
  'journal',
  {
    seq: bigint({ mode: 'number' }).primaryKey(),
    entryId: uuid().notNull().unique(),
    kind: text().notNull(),
    happenedAt: moment().notNull(),
    recordedAt: moment().notNull(),
    by: uuid().notNull(),
    /** Canonical JSON, byte for byte what the hash covers. */
    entry: text().notNull(),
    facts: text().notNull(),
    previousHash: text().notNull(),
    hash: text().notNull(),
  },
  // Asked for by day; and how the house answered its questions over time, at every look at a vessel.
  (t) => [
    index().on(t.happenedAt),
    index('journal_answers')
      .on(t.seq)
      .where(sql`${t.kind} in ('house.found', 'house.rule')`),
  ],
);

/** Which lots an entry speaks of: the pages of the book. */
export const entryLot = pgTable(
  'entry_lot',
  {
    lotId: uuid().notNull(),
    seq: bigint({ mode: 'number' })
      .notNull()
      .references(() => journal.seq),
  },
  (t) => [primaryKey({ columns: [t.lotId, t.seq] }), index().on(t.seq)],
);
