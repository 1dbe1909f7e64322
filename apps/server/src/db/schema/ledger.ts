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
  pgView,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { PREPARATIONS, SUPPLY_STATES, type HoldRule, type Sink, type Source } from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';
import { decimal, milligrams, moment } from './columns.js';
import { vessel } from './house.js';
import { journal } from './journal.js';
import { material, supplier } from './stores.js';

export const LOT_KINDS = ['supply', 'batch', 'preparation', 'fill', 'run'] as const;

/** Anything that can hold or become food. */
export const lot = pgTable(
  'lot',
  {
    id: uuid().primaryKey(),
    code: text().notNull().unique(),
    /** The code without separators, in capitals: what is looked up. */
    codeKey: text().notNull().unique(),
    kind: text({ enum: LOT_KINDS }).notNull(),
    name: text().notNull(),
    origin: text({ enum: ['received', 'made', 'beforeLedger'] }).notNull(),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
    batchId: uuid(),
    formulaId: uuid(),
    formulaVersion: integer(),
    plan: jsonb().$type<BodyOf<'batch.start'>['plan']>(),
    variant: text(),
    measuredLeafSalt: decimal(),
    /** House rules in force when it started. */
    rules: jsonb().$type<Record<string, string>>(),
    materialId: uuid().references(() => material.id),
    supplierId: uuid().references(() => supplier.id),
    supplierLotCode: text(),
    useBy: date(),
    state: text({ enum: SUPPLY_STATES }).notNull().default('asReceived'),
    keepsUntil: date(),
    cost: decimal(),
    reference: text(),
    condition: text(),
    /** What was seen when it came in. */
    door: jsonb().$type<NonNullable<BodyOf<'supply.receive'>['door']>>(),
    /** Of the paper it came with. */
    photo: text(),
    vesselId: uuid().references(() => vessel.id),
    /** Of a preparation: brine, paste, kept brine ... */
    form: text({ enum: PREPARATIONS }),
    /** Of what is left of a brine: whether it met the product. */
    touched: text({ enum: ['never', 'pouredOff'] }),
    /** Of kept brine: how many batches it has come through. */
    generation: integer(),
    /** A tap is not counted down. */
    metered: boolean().notNull().default(true),
    closedAt: moment(),
    /** The correction by which it was never made: its code stays taken, nothing else of it counts. */
    undoneSeq: bigint({ mode: 'number' }),
    /** The vessel a live fill stands in: what is live is found by it, however many there ever were. */
    liveVessel: uuid().generatedAlwaysAs(sql`case when kind = 'fill' and closed_at is null then vessel_id end`),
  },
  (t) => [
    index().on(t.kind, t.seq),
    index().on(t.formulaId, t.seq),
    index('lot_live')
      .on(t.liveVessel)
      .where(sql`${t.liveVessel} is not null`),
    index('lot_supplier_code')
      .on(sql`upper(${t.supplierLotCode})`)
      .where(sql`${t.kind} = 'supply'`),
    index('lot_vessel_seq')
      .on(t.vesselId, t.seq)
      .where(sql`${t.kind} = 'fill'`),
    index('lot_unmetered')
      .on(t.id)
      .where(sql`not ${t.metered}`),
    index('lot_batch_open')
      .on(t.seq)
      .where(sql`${t.kind} = 'batch' and ${t.closedAt} is null`),
    index('lot_preparation_open')
      .on(t.seq)
      .where(sql`${t.kind} = 'preparation' and ${t.closedAt} is null`),
    index().on(t.batchId),
    index().on(t.materialId),
    // A vessel holds one fill at a time: `lot_vessel_taken`, an exclusion that is looked at when a correction is whole,
    // and so stands in a migration.
  ],
);

/** The ledger. Append only, by grants and by trigger; a correction adds a row that cancels another. */
export const movement = pgTable(
  'movement',
  {
    id: bigint({ mode: 'number' }).primaryKey(),
    seq: bigint({ mode: 'number' })
      .notNull()
      .references(() => journal.seq),
    /** The entry a correction goes back to; of an ordinary movement, its own. */
    rootEntryId: uuid().notNull(),
    kind: text().notNull(),
    at: moment().notNull(),
    fromLot: uuid().references(() => lot.id),
    source: text().$type<Source>(),
    toLot: uuid().references(() => lot.id),
    sink: text().$type<Sink>(),
    milligrams: milligrams().notNull(),
    cancels: bigint({ mode: 'number' }),
    /** Only takes back the row it cancels: nothing stands in its place. */
    void: boolean().notNull().default(false),
  },
  (t) => [
    index().on(t.fromLot, t.at),
    index().on(t.toLot, t.at),
    index().on(t.rootEntryId),
    index().on(t.seq),
    uniqueIndex('movement_cancels')
      .on(t.cancels)
      .where(sql`${t.cancels} is not null`),
    check('movement_mass_positive', sql`${t.milligrams} > 0`),
    check('movement_one_from', sql`(${t.fromLot} is null) <> (${t.source} is null)`),
    check('movement_one_to', sql`(${t.toLot} is null) <> (${t.sink} is null)`),
    check('movement_somewhere_else', sql`${t.fromLot} is distinct from ${t.toLot}`),
  ],
);

/** Movements that stand: none that was taken back, none that only takes back. */
export const liveMovement = pgView('live_movement', {
  id: bigint({ mode: 'number' }).notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
  rootEntryId: uuid().notNull(),
  kind: text().notNull(),
  at: moment().notNull(),
  fromLot: uuid(),
  source: text().$type<Source>(),
  toLot: uuid(),
  sink: text().$type<Sink>(),
  milligrams: milligrams().notNull(),
}).existing();

/** What came into each lot and went out of it by the book, kept by the database with every movement. */
export const lotBalance = pgTable(
  'lot_balance',
  {
    lotId: uuid()
      .primaryKey()
      .references(() => lot.id),
    inMilligrams: milligrams().notNull().default(0),
    outMilligrams: milligrams().notNull().default(0),
    kind: text({ enum: LOT_KINDS }).notNull(),
    /** The lot, while it is a supply of which something is left: what stands in the stores, however much ever came. */
    inStore: uuid().generatedAlwaysAs(
      sql`case when kind = 'supply' and in_milligrams > out_milligrams then lot_id end`,
    ),
  },
  (t) => [
    index('lot_balance_in_store')
      .on(t.inStore)
      .where(sql`${t.inStore} is not null`),
  ],
);

/** What was read, when, and with what. */
const asRead = () => ({
  kind: text({ enum: ['ph', 'temperature'] }).notNull(),
  value: decimal().notNull(),
  sample: text({ enum: ['blended', 'brine'] }),
  at: moment().notNull(),
  meterId: uuid(),
  sampleCelsius: decimal(),
});

/** pH and temperatures; a corrected reading stays, the right one refers to it by its root. */
export const reading = pgTable(
  'reading',
  {
    entryId: uuid().primaryKey(),
    rootEntryId: uuid().notNull(),
    seq: bigint({ mode: 'number' })
      .notNull()
      .references(() => journal.seq),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    ...asRead(),
    /** Counts for release: a meter, calibrated and checked. */
    forRelease: boolean().notNull().default(false),
    unfit: text(),
    /** Off the trend when it was read: its repeat decides. */
    jumped: boolean().notNull().default(false),
    /** Takes back the readings of its root: it was never read. */
    void: boolean().notNull().default(false),
  },
  (t) => [index().on(t.lotId, t.kind, t.at), index().on(t.rootEntryId)],
);

/** Readings that stand: none that was corrected, none that only takes back. */
export const liveReading = pgView('live_reading', {
  entryId: uuid().notNull(),
  rootEntryId: uuid().notNull(),
  seq: bigint({ mode: 'number' }).notNull(),
  lotId: uuid().notNull(),
  ...asRead(),
  forRelease: boolean().notNull(),
  unfit: text(),
}).existing();

export const hold = pgTable(
  'hold',
  {
    entryId: uuid().notNull(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    reason: text().notNull(),
    /** What opened it. */
    rule: text().$type<HoldRule>().notNull().default('person'),
    /** Of a hold that reached down: where it was placed. */
    causeLot: uuid(),
    placedAt: moment().notNull(),
    liftedAt: moment(),
    liftReason: text(),
    /** Ended by the rules themselves, because what it rested on was corrected. */
    anew: boolean(),
  },
  (t) => [
    primaryKey({ columns: [t.entryId, t.lotId] }),
    index('hold_open')
      .on(t.lotId)
      .where(sql`${t.liftedAt} is null`),
  ],
);

/** A deviation accepted as it stood then: whatever is weighed in or corrected later asks again. */
export const saltAcceptance = pgTable('salt_acceptance', {
  batchId: uuid()
    .primaryKey()
    .references(() => lot.id),
  reason: text().notNull(),
  at: moment().notNull(),
  seq: bigint({ mode: 'number' }).notNull().default(0),
});

/** What stood in a lot by weighing. The latest counts. */
export const lotCount = pgTable(
  'lot_count',
  {
    entryId: uuid().primaryKey(),
    lotId: uuid()
      .notNull()
      .references(() => lot.id),
    milligrams: milligrams().notNull(),
    byDifference: text({ enum: ['gas', 'drip'] }),
    at: moment().notNull(),
    seq: bigint({ mode: 'number' }).notNull(),
  },
  (t) => [index().on(t.lotId, t.seq)],
);

/** Serial ranges, not rows, hold ordinary jars. */
export const jarRange = pgTable(
  'jar_range',
  {
    runLotId: uuid()
      .notNull()
      .references(() => lot.id),
    firstSerial: integer().notNull(),
    lastSerial: integer().notNull(),
    sizeMl: integer().notNull(),
    netMilligrams: milligrams().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.runLotId, t.firstSerial] }),
    check('jar_range_order', sql`${t.lastSerial} >= ${t.firstSerial}`),
  ],
);
