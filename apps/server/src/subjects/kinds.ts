import { type Kinds, tellKinds } from '../journal/registry.js';
import { entryCorrect } from './correcting/index.js';
import { customerAdded, customerChanged, jarsCameBack, jarsDispatched, jarsLeft, jarsMoved } from './dispatch/index.js';
import { formulaRetire, formulaSave } from './formulas/index.js';
import { loadHeated, processEnded, processFiled, sealsLooked } from './heat/index.js';
import { holdAnew, holdLift, holdPlace, holdRuled } from './holds/index.js';
import { houseFound, houseRuled, houseSet, roomAdd } from './house/index.js';
import { findingRecorded } from './judging/index.js';
import { designKept, jarsLabelled, labelsCounted, labelsPrinted } from './labels/index.js';
import {
  batchClosed,
  batchStart,
  brineMake,
  ingredientAdd,
  leafDrained,
  leafRinsed,
  leafTurned,
  lineSettled,
  produceWeigh,
  saltAccept,
  saltConfirmed,
  saltWeigh,
  stepBegin,
  stepFinish,
  timerStarted,
  timerStopped,
} from './making/index.js';
import { materialAdd, materialChange } from './materials/index.js';
import { lotCounted, lotOpen, packRun } from './packing/index.js';
import { personAdd, personLeave } from './people/index.js';
import { brineJoined, brineKept, brineLeft, preparationMade, remainderReturned } from './preparations/index.js';
import { runChecked, runReleased, runStored, runWithdrawn } from './release/index.js';
import { deliveryReceived, stockCounted, supplierAdd, supplyReceive, supplyStated } from './stores/index.js';
import { lossRecord, vesselSplit, vesselThrownOut, vesselToppedUp } from './tending/index.js';
import { lotTransfer, vesselAdd, vesselClean, vesselClosed, vesselFill, vesselMoved } from './vessels/index.js';
import {
  checkMade,
  meterAdded,
  meterCalibrated,
  phRead,
  planChanged,
  readySaid,
  roundQuieted,
  tasted,
  temperatureRead,
  titrated,
} from './watching/index.js';

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
  'run.check': runChecked,
  'run.store': runStored,
  'run.release': runReleased,
  'run.withdraw': runWithdrawn,
  'heat.process': processFiled,
  'heat.processEnd': processEnded,
  'heat.load': loadHeated,
  'heat.seals': sealsLooked,
  'label.design': designKept,
  'label.jars': jarsLabelled,
  'label.tally': labelsCounted,
  'customer.add': customerAdded,
  'customer.change': customerChanged,
  'jars.move': jarsMoved,
  'jars.dispatch': jarsDispatched,
  'jars.out': jarsLeft,
  'jars.back': jarsCameBack,
  'lot.open': lotOpen,
  'entry.correct': entryCorrect,
};

tellKinds(KINDS);
