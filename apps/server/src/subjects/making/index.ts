// What other subjects may know of this one.
export { batchStart, brineMake, nextBatchCode, produceWeigh, saltAccept, saltWeigh } from './batches.js';
export { ingredientAdd } from './ingredient.js';
export { leafDrained, leafRinsed, leafTurned } from './leaf.js';
export { batchClosed, lineSettled, saltConfirmed, stepBegin, stepFinish, timerStarted, timerStopped } from './steps.js';
