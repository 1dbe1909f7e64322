import { tellKinds, type Kinds } from '../registry.js';
import { batchStart, brineMake, ingredientAdd, produceWeigh, saltAccept, saltWeigh } from './batches.js';
import { entryCorrect } from './correcting.js';
import { labelsPrinted, lotTransfer, vesselClosed, vesselFill, vesselMoved } from './filling.js';
import { formulaRetire, formulaSave } from './formulas.js';
import { houseFound, houseRuled, houseSet, personAdd, personLeave, roomAdd, vesselAdd, vesselClean } from './house.js';
import { leafDrained, leafRinsed, leafTurned } from './leaf.js';
import { lotOpen, packRun } from './packing.js';
import { brineJoined, brineKept, brineLeft, preparationMade, remainderReturned } from './preparations.js';
import { batchClosed, lineSettled, saltConfirmed, stepBegin, stepFinish, timerStarted, timerStopped } from './steps.js';
import {
  deliveryReceived,
  materialAdd,
  materialChange,
  stockCounted,
  supplierAdd,
  supplyReceive,
  supplyStated,
} from './stores.js';
import { findingRecorded } from './judging.js';
import {
  checkMade,
  meterAdded,
  meterCalibrated,
  planChanged,
  readySaid,
  roundQuieted,
  tasted,
  titrated,
} from './rounds.js';
import { vesselSplit, vesselThrownOut, vesselToppedUp } from './tending.js';
import {
  holdAnew,
  holdLift,
  holdPlace,
  holdRuled,
  lossRecord,
  lotCounted,
  phRead,
  temperatureRead,
} from './watching.js';

/** One description for every kind of entry: the compiler demands it. */
export const KINDS: Kinds = {
  'house.found': houseFound,
  'house.rule': houseRuled,
  'house.set': houseSet,
  'person.add': personAdd,
  'person.leave': personLeave,
  'room.add': roomAdd,
  'vessel.add': vesselAdd,
  'vessel.clean': vesselClean,
  'supplier.add': supplierAdd,
  'material.add': materialAdd,
  'material.change': materialChange,
  'supply.receive': supplyReceive,
  'delivery.receive': deliveryReceived,
  'stock.count': stockCounted,
  'supply.state': supplyStated,
  'formula.save': formulaSave,
  'formula.retire': formulaRetire,
  'batch.start': batchStart,
  'produce.weigh': produceWeigh,
  'brine.make': brineMake,
  'salt.weigh': saltWeigh,
  'salt.accept': saltAccept,
  'ingredient.add': ingredientAdd,
  'vessel.fill': vesselFill,
  'lot.transfer': lotTransfer,
  'step.begin': stepBegin,
  'step.finish': stepFinish,
  'line.settle': lineSettled,
  'timer.start': timerStarted,
  'timer.stop': timerStopped,
  'salt.confirm': saltConfirmed,
  'batch.close': batchClosed,
  'preparation.make': preparationMade,
  'brine.left': brineLeft,
  'brine.join': brineJoined,
  'brine.keep': brineKept,
  'leaf.turn': leafTurned,
  'leaf.rinse': leafRinsed,
  'leaf.drain': leafDrained,
  'vessel.close': vesselClosed,
  'vessel.move': vesselMoved,
  'label.print': labelsPrinted,
  'remainder.return': remainderReturned,
  'meter.add': meterAdded,
  'meter.calibrate': meterCalibrated,
  'check.make': checkMade,
  'round.quiet': roundQuieted,
  'plan.change': planChanged,
  'taste.record': tasted,
  'acid.titrate': titrated,
  'lot.ready': readySaid,
  'hold.byRule': holdRuled,
  'hold.anew': holdAnew,
  'find.record': findingRecorded,
  'vessel.throwOut': vesselThrownOut,
  'vessel.topUp': vesselToppedUp,
  'vessel.split': vesselSplit,
  'ph.read': phRead,
  'temperature.read': temperatureRead,
  'hold.place': holdPlace,
  'hold.lift': holdLift,
  'loss.record': lossRecord,
  'lot.count': lotCounted,
  'pack.run': packRun,
  'lot.open': lotOpen,
  'entry.correct': entryCorrect,
};

tellKinds(KINDS);
