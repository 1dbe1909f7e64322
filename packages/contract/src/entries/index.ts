import { z } from 'zod';
import {
  batchClose,
  brineJoin,
  brineKeep,
  brineLeft,
  labelPrint,
  leafDrain,
  leafRinse,
  leafTurn,
  lineSettle,
  preparationMake,
  remainderReturn,
  saltConfirm,
  stepBegin,
  stepFinish,
  timerStart,
  timerStop,
  vesselClose,
  vesselMove,
} from './bench.js';
import { entryCorrect } from './correcting.js';
import { formulaRetire, formulaSave } from './formulas.js';
import { houseFound, houseRule, houseSet, personAdd, personLeave, roomAdd, vesselAdd, vesselClean } from './house.js';
import {
  batchStart,
  brineMake,
  ingredientAdd,
  produceWeigh,
  saltAccept,
  saltWeigh,
  lotTransfer,
  vesselFill,
} from './making.js';
import { lotOpen, packRun } from './packing.js';
import {
  deliveryReceive,
  materialAdd,
  materialChange,
  stockCount,
  supplierAdd,
  supplyReceive,
  supplyState,
} from './stores.js';
import {
  acidTitrate,
  checkMake,
  findRecord,
  holdAnew,
  holdByRule,
  holdLift,
  holdPlace,
  lossRecord,
  lotCount,
  lotReady,
  meterAdd,
  meterCalibrate,
  phRead,
  planChange,
  roundQuiet,
  tasteRecord,
  temperatureRead,
  vesselSplit,
  vesselThrowOut,
  vesselTopUp,
} from './watching.js';

/** Every entry a person or a tool can record. */
export const entrySchema = z.discriminatedUnion('kind', [
  houseFound,
  houseRule,
  houseSet,
  personAdd,
  personLeave,
  roomAdd,
  vesselAdd,
  vesselClean,
  supplierAdd,
  materialAdd,
  materialChange,
  supplyReceive,
  deliveryReceive,
  stockCount,
  supplyState,
  formulaSave,
  formulaRetire,
  batchStart,
  produceWeigh,
  brineMake,
  saltWeigh,
  saltAccept,
  ingredientAdd,
  vesselFill,
  lotTransfer,
  stepBegin,
  stepFinish,
  lineSettle,
  timerStart,
  timerStop,
  saltConfirm,
  batchClose,
  preparationMake,
  brineLeft,
  brineJoin,
  brineKeep,
  leafTurn,
  leafRinse,
  leafDrain,
  vesselClose,
  vesselMove,
  labelPrint,
  remainderReturn,
  meterAdd,
  meterCalibrate,
  checkMake,
  roundQuiet,
  planChange,
  tasteRecord,
  acidTitrate,
  lotReady,
  holdByRule,
  holdAnew,
  findRecord,
  vesselThrowOut,
  vesselTopUp,
  vesselSplit,
  phRead,
  temperatureRead,
  holdPlace,
  holdLift,
  lossRecord,
  lotCount,
  packRun,
  lotOpen,
  entryCorrect,
]);

export type Entry = z.infer<typeof entrySchema>;
export type EntryKind = Entry['kind'];
export type EntryOf<K extends EntryKind> = Extract<Entry, { kind: K }>;
export type BodyOf<K extends EntryKind> = EntryOf<K>['body'];

export const ENTRY_KINDS = entrySchema.options.map((option) => option.shape.kind.value);

/** Kinds that the house’s rules write, and nobody signed in. */
export const RULE_KINDS: readonly EntryKind[] = ['hold.byRule', 'hold.anew'];

/** `POST /api/entries`: one or a few at once, recorded together or not at all. */
export const entriesRequest = z.strictObject({ entries: z.array(entrySchema).min(1).max(120) });

export * from './shape.js';
export * from './house.js';
export * from './stores.js';
export * from './formulas.js';
export * from './making.js';
export * from './bench.js';
export * from './watching.js';
export * from './packing.js';
export * from './correcting.js';
