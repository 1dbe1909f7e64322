import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import type { BodyOf } from '@clear-tally/contract';
import type { EquipmentKind, TrainedTask } from '@clear-tally/core';
import { decimal, milligrams, moment } from './columns.js';

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
  details: jsonb().$type<NonNullable<BodyOf<'room.add'>['details']>>().notNull().default({}),
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
  details: jsonb().$type<NonNullable<BodyOf<'vessel.add'>['details']>>().notNull().default({}),
});

/** Who was taught what, by whom, until when; what ran out stays. */
export const training = pgTable(
  'training',
  {
    id: uuid().primaryKey(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    task: text().$type<TrainedTask>().notNull(),
    words: text(),
    taughtBy: text().notNull(),
    onDay: date().notNull(),
    untilDay: date(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.personId, t.task)],
);

/** Scales, tools, loose parts, water sources. */
export const equipment = pgTable('equipment', {
  id: uuid().primaryKey(),
  kind: text().$type<EquipmentKind>().notNull(),
  tag: text().notNull().unique(),
  name: text().notNull(),
  roomId: uuid().references(() => room.id),
  capacityGrams: doublePrecision(),
  stepGrams: doublePrecision(),
  count: integer(),
  words: text(),
  inUse: boolean().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** Each look at one: what was found, and whether that is in order. */
export const equipmentCheck = pgTable(
  'equipment_check',
  {
    entryId: uuid().primaryKey(),
    equipmentId: uuid()
      .notNull()
      .references(() => equipment.id),
    words: text().notNull(),
    passed: boolean().notNull(),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.equipmentId, t.at)],
);

/** What was weighed on which scale: into which lot, how heavy. */
export const weighedOn = pgTable(
  'weighed_on',
  {
    entryId: uuid().primaryKey(),
    equipmentId: uuid()
      .notNull()
      .references(() => equipment.id),
    lotId: uuid().notNull(),
    milligrams: milligrams().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.equipmentId, t.at)],
);

/** Batches of sanitiser. */
export const sanitiser = pgTable('sanitiser', {
  id: uuid().primaryKey(),
  code: text().notNull().unique(),
  agent: text().notNull(),
  dilution: text().notNull(),
  litres: decimal().notNull(),
  strength: text(),
  /** Null: nobody checked it. */
  passed: boolean(),
  /** Why nobody checks it, where it was said. */
  unchecked: text(),
  goodUntil: moment().notNull(),
  by: uuid().notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
});

/** Each cleaning of a vessel, a tool or a room: one of the three, with what it was cleaned. */
export const cleaning = pgTable(
  'cleaning',
  {
    entryId: uuid().primaryKey(),
    vesselId: uuid().references(() => vessel.id),
    equipmentId: uuid().references(() => equipment.id),
    roomId: uuid().references(() => room.id),
    mixId: uuid().references(() => sanitiser.id),
    agent: text().notNull(),
    dilution: text(),
    contactMinutes: decimal(),
    rinsed: boolean().notNull().default(false),
    by: uuid().notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [
    index().on(t.vesselId, t.at),
    index().on(t.equipmentId, t.at),
    check('cleaning_one_thing', sql`num_nonnulls(${t.vesselId}, ${t.equipmentId}, ${t.roomId}) = 1`),
  ],
);
