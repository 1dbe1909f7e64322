import type { JarAt, ReleaseKey, RunCheckKind, RunCheckSays } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { moment } from './columns.js';
import { room } from './house.js';
import { lot } from './ledger.js';

/** Who gets jars. The contact is kept beside the name, and goes with it. */
export const customer = pgTable('customer', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  kind: text().notNull(),
  address: text(),
  contact: text(),
  closed: boolean().notNull().default(false),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** What a packed run was looked at for. */
export const runCheck = pgTable(
  'run_check',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    what: text().$type<RunCheckKind>().notNull(),
    says: text().$type<RunCheckSays>().notNull(),
    note: text(),
    photo: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.at)],
);

/** Where a run is kept since then. */
export const runStore = pgTable(
  'run_store',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    storage: text().$type<'cold' | 'cellar' | 'ambient'>().notNull(),
    reason: text().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.at)],
);

/** Signatures under a run: released, or withdrawn. The last counts. */
export const runMark = pgTable(
  'run_mark',
  {
    entryId: uuid().primaryKey(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    what: text({ enum: ['released', 'withdrawn'] }).notNull(),
    reason: text(),
    excuses: jsonb().$type<Partial<Record<ReleaseKey, string>>>().notNull(),
    /** Reviewed by who packed it. */
    own: boolean().notNull(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.runLotId, t.at)],
);

/** A delivery to a customer, with its note. */
export const dispatch = pgTable(
  'dispatch',
  {
    id: uuid().primaryKey(),
    code: text().notNull().unique(),
    customerId: uuid()
      .notNull()
      .references(() => customer.id),
    note: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.at)],
);

/** What customers want, until it is sent or closed. */
export const customerOrder = pgTable('customer_order', {
  id: uuid().primaryKey(),
  code: text().notNull(),
  customerId: uuid()
    .notNull()
    .references(() => customer.id),
  wantedOn: date({ mode: 'string' }),
  lines: jsonb().$type<{ formulaId: string; sizeMl: number; count: number }[]>().notNull(),
  note: text(),
  state: text({ enum: ['open', 'sent', 'closed'] }).notNull(),
  reason: text(),
  by: uuid().notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** Where jars went. Of a jar the last row that names it counts. */
export const jarMove = pgTable(
  'jar_move',
  {
    entryId: uuid().notNull(),
    number: integer().notNull(),
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    whereKind: text().$type<JarAt['kind']>().notNull(),
    roomId: uuid().references(() => room.id),
    customerId: uuid().references(() => customer.id),
    dispatchId: uuid(),
    how: text(),
    note: text(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.entryId, t.number] }),
    index().on(t.runLotId, t.at),
    index().on(t.customerId),
    check('jar_move_order', sql`${t.lastSerial} >= ${t.firstSerial}`),
  ],
);
