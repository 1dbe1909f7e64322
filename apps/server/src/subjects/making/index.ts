// What other subjects may know of this one.
export { batchStart, brineMake, ingredientAdd, nextBatchCode, produceWeigh, saltAccept, saltWeigh } from './batches.js';
export { leafDrained, leafRinsed, leafTurned } from './leaf.js';
export { batchClosed, lineSettled, saltConfirmed, stepBegin, stepFinish, timerStarted, timerStopped } from './steps.js';
