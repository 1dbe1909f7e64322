import { bigint, boolean, date, index, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { BodyOf } from '@clear-tally/contract';
import { decimal, moment } from './columns.js';

export const house = pgTable('house', {
  id: integer().primaryKey(),
  name: text().notNull(),
  site: text().notNull(),
  timeZone: text().notNull(),
  decimalMark: text({ enum: ['point', 'comma'] }).notNull(),
  acidLimit: decimal().notNull(),
  saltTolerance: decimal().notNull(),
  settings: jsonb().$type<BodyOf<'house.set'>>().notNull().default({}),
});

/** The answers to the house's questions as they stand; the journal keeps the earlier ones. */
export const houseRule = pgTable('house_rule', {
  rule: text().primaryKey(),
  option: text().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

export const person = pgTable('person', {
  id: uuid().primaryKey(),
  name: text().notNull().unique(),
  initials: text().notNull(),
  role: text({ enum: ['owner', 'maker', 'inspector'] }).notNull(),
  /** Has left the house: signs in nowhere, and stays named in what they recorded. */
  leftAt: moment(),
  /** An inspector comes in until the end of this day, by the house’s clock; null: until somebody ends it. */
  lastDay: date(),
});

/** What an inspector looked at: beside the journal, which looking does not change. */
export const look = pgTable(
  'look',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    at: moment().notNull(),
    what: text().notNull(),
  },
  (t) => [index().on(t.personId, t.at)],
);

/** PINs are no part of the history: they are kept beside the journal, hashed. */
export const credential = pgTable('credential', {
  personId: uuid()
    .primaryKey()
    .references(() => person.id),
  pinHash: text().notNull(),
  /** Only in the demo house, whose PINs are public. */
  demoPin: text(),
});

export const signIn = pgTable('sign_in', {
  tokenHash: text().primaryKey(),
  personId: uuid()
    .notNull()
    .references(() => person.id),
  expiresAt: moment().notNull(),
  /** When the person proved again who they are, to sign something. */
  signedAt: moment(),
});

/** Tries to sign in, by person, address and house; kept by the rate limiter, for several servers together. */
export const rateLimit = pgTable('rate_limit', {
  key: text().primaryKey(),
  points: integer().notNull().default(0),
  expire: bigint({ mode: 'number' }),
});

/** Devices on which a person has signed in before: there a short PIN is enough. */
export const knownDevice = pgTable(
  'known_device',
  {
    tokenHash: text().notNull(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    since: moment().notNull(),
  },
  (t) => [primaryKey({ columns: [t.tokenHash, t.personId] })],
);

export const room = pgTable('room', {
  id: uuid().primaryKey(),
  name: text().notNull().unique(),
  usualCelsius: decimal().notNull(),
  position: integer().notNull(),
});

export const vessel = pgTable('vessel', {
  id: uuid().primaryKey(),
  tag: text().notNull().unique(),
  shape: text({ enum: ['crock', 'drum', 'glass', 'barrel', 'bag', 'pan'] }).notNull(),
  brimMl: integer().notNull(),
  maxFill: decimal().notNull(),
  minFill: decimal().notNull(),
  weightVolumeMl: integer().notNull(),
  closure: text({ enum: ['airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'] }).notNull(),
  roomId: uuid()
    .notNull()
    .references(() => room.id),
  inUse: boolean().notNull(),
  cleanedAt: moment(),
  inner: jsonb().$type<NonNullable<BodyOf<'vessel.add'>['inner']>>(),
});

/** Each cleaning of a vessel, with what it was cleaned. */
export const cleaning = pgTable(
  'cleaning',
  {
    entryId: uuid().primaryKey(),
    vesselId: uuid()
      .notNull()
      .references(() => vessel.id),
    agent: text().notNull(),
    dilution: text(),
    contactMinutes: decimal(),
    rinsed: boolean().notNull().default(false),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.vesselId, t.at)],
);
