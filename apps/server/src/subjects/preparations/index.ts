// What other subjects may know of this one.
export { brineKept, remainderReturned } from './brineKept.js';
export { brineJoined, brineLeft } from './brineMoves.js';
export { nextPreparationCode } from './nextPreparationCode.js';
export { preparationMade } from './preparations.js';
