import { bigint, boolean, index, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { CheckKind, Place, Verdict } from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';
import { decimal, moment } from './columns.js';
import { person } from './house.js';
import { lot } from './ledger.js';

export const meter = pgTable('meter', {
  id: uuid().primaryKey(),
  tag: text().notNull().unique(),
  name: text().notNull(),
  kind: text({ enum: ['meter', 'strips'] }).notNull(),
});

export const calibration = pgTable(
  'calibration',
  {
    entryId: uuid().primaryKey(),
    meterId: uuid()
      .notNull()
      .references(() => meter.id),
    buffers: jsonb().$type<number[]>().notNull(),
    slopePercent: decimal().notNull(),
    offsetMillivolts: decimal().notNull(),
    checkBuffer: decimal(),
    checkRead: decimal(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.meterId, t.at)],
);

/** Checks of the round that are no readings, tastings and titrations among them. */
export const checkMark = pgTable(
  'check_mark',
  {
    entryId: uuid().notNull(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    /** Of the kind, and of the house's own words. */
    key: text().notNull(),
    what: text().$type<CheckKind | 'acid' | 'ready'>().notNull(),
    words: text(),
    quiet: boolean().notNull(),
    figure: decimal(),
    says: text(),
    detail: jsonb().$type<Record<string, unknown>>().notNull().default({}),
    photo: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.entryId, t.lotId, t.key] }), index().on(t.lotId, t.at)],
);

/** A check plan changed on the way, for a vessel or a whole batch; the journal keeps the earlier ones. */
export const checkPlan = pgTable('check_plan', {
  lotId: uuid()
    .primaryKey()
    .references(() => lot.id),
  checks: jsonb().$type<BodyOf<'plan.change'>['checks']>().notNull(),
  since: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

export const finding = pgTable(
  'finding',
  {
    entryId: uuid().notNull(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    finding: text().notNull(),
    place: text().$type<Place>().notNull(),
    guide: text().$type<Verdict>().notNull(),
    verdict: text().$type<Verdict>().notNull(),
    reasons: text().array().notNull(),
    note: text(),
    photo: text(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.entryId, t.lotId] }), index().on(t.lotId, t.at)],
);

/** Private addresses of the calendar feed. Like PINs they are no part of the history. */
export const calendarKey = pgTable('calendar_key', {
  tokenHash: text().primaryKey(),
  personId: uuid()
    .notNull()
    .references(() => person.id),
  madeAt: moment().notNull(),
  revokedAt: moment(),
});
