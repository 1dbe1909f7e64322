import { z } from 'zod';
import { entryCorrect } from './correcting.js';
import { finishAdd, finishBegin, finishBrine, finishByProduct, finishDry, runLevel } from './finishing.js';
import { formulaRetire, formulaSave } from './formulas.js';
import { heatLoad, heatProcess, heatProcessEnd, heatSeals } from './heat.js';
import { holdAnew, holdByRule, holdLift, holdPlace } from './holds.js';
import { houseFound, houseRule, houseSet, roomAdd, roomChange } from './house.js';
import { findRecord } from './judging.js';
import { labelDesign, labelJars, labelPrint, labelTally } from './labels.js';
import {
  batchClose,
  batchStart,
  brineMake,
  ingredientAdd,
  leafDrain,
  leafRinse,
  leafTurn,
  lineSettle,
  produceWeigh,
  saltAccept,
  saltConfirm,
  saltWeigh,
  stepBegin,
  stepFinish,
  timerStart,
  timerStop,
} from './making.js';
import { materialAdd, materialChange } from './materials.js';
import { lotCount, lotOpen, packRun } from './packing.js';
import {
  customerAdd,
  customerChange,
  jarsBack,
  jarsDispatch,
  jarsMove,
  jarsOut,
  orderClose,
  orderTake,
} from './dispatch.js';
import {
  equipmentAdd,
  equipmentChange,
  equipmentCheck,
  equipmentClean,
  sanitiserCheck,
  sanitiserMix,
} from './equipment.js';
import { personAdd, personChange, personLeave, personTrain } from './people.js';
import { brineJoin, brineKeep, brineLeft, preparationMake, remainderReturn } from './preparations.js';
import { complaintClose, complaintTake, recallAnswer, recallClose, recallNotice, recallOpen } from './recall.js';
import { runCheck, runRelease, runStore, runWithdraw } from './release.js';
import { id, iso } from './shape.js';
import { deliveryReceive, stockCount, supplierAdd, supplyReceive, supplyState } from './stores.js';
import { lossRecord, vesselSplit, vesselThrowOut, vesselTopUp } from './tending.js';
import { lotTransfer, vesselAdd, vesselChange, vesselClean, vesselClose, vesselFill, vesselMove } from './vessels.js';
import {
  acidTitrate,
  checkMake,
  lotReady,
  meterAdd,
  meterCalibrate,
  phRead,
  planChange,
  roundQuiet,
  tasteRecord,
  temperatureRead,
} from './watching.js';

/** Every entry a person or a tool can record. */
export const entrySchema = z.discriminatedUnion('kind', [
  houseFound,
  houseRule,
  houseSet,
  personAdd,
  personChange,
  personLeave,
  personTrain,
  equipmentAdd,
  equipmentChange,
  equipmentCheck,
  equipmentClean,
  sanitiserMix,
  sanitiserCheck,
  roomAdd,
  roomChange,
  vesselAdd,
  vesselChange,
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
  finishBegin,
  finishBrine,
  finishAdd,
  finishDry,
  finishByProduct,
  runLevel,
  runCheck,
  runStore,
  runRelease,
  runWithdraw,
  heatProcess,
  heatProcessEnd,
  heatLoad,
  heatSeals,
  complaintTake,
  complaintClose,
  recallOpen,
  recallNotice,
  recallAnswer,
  recallClose,
  labelDesign,
  labelJars,
  labelTally,
  customerAdd,
  customerChange,
  orderTake,
  orderClose,
  jarsMove,
  jarsDispatch,
  jarsOut,
  jarsBack,
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
export const entriesRequest = z.strictObject({ entries: z.array(entrySchema).min(1).max(400) });

export * from './shape.js';

export * from './people.js';
export * from './vessels.js';
export * from './house.js';

export * from './materials.js';
export * from './stores.js';

export * from './formulas.js';

export * from './making.js';
export * from './vessels.js';

export * from './making.js';
export * from './preparations.js';
export * from './vessels.js';
export * from './labels.js';

export * from './watching.js';
export * from './holds.js';
export * from './judging.js';
export * from './tending.js';
export * from './packing.js';

export * from './packing.js';

export * from './correcting.js';

/** What the server decided about a recorded entry, such as the code it issued. */
export const recorded = z.strictObject({
  id,
  seq: z.int(),
  kind: z.string(),
  recordedAt: iso,
  repeated: z.boolean(),
  facts: z.record(z.string(), z.unknown()),
});

/** A figure of a lot that is another than before. */
export const change = z.strictObject({ code: z.string(), what: z.string(), was: z.string(), now: z.string() });

export type Change = z.infer<typeof change>;

export const entriesReply = z.strictObject({
  recorded: z.array(recorded),
  /** What it changed after the fact, where it happened before: none of what happens now. */
  changes: z.array(change),
});

export type Recorded = z.infer<typeof recorded>;

export type EntriesReply = z.infer<typeof entriesReply>;
