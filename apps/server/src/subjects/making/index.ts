// What other subjects may know of this one.
export { batchClosed, saltConfirmed } from './batchEnd.js';
export { batchStart, nextBatchCode } from './batches.js';
export { brineMake } from './brineMade.js';
export { ingredientAdd } from './ingredient.js';
export { leafDrained, leafRinsed, leafTurned } from './leaf.js';
export { lineChoices } from './onSheet.js';
export { produceWeigh } from './produceWeighed.js';
export { saltAccept, saltWeigh } from './salting.js';
export { lineSettled, stepBegin, stepFinish } from './steps.js';
export { timerStarted, timerStopped } from './timers.js';
