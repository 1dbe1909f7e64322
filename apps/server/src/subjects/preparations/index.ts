// What other subjects may know of this one.
export {
  nextPreparationCode,
  brineJoined,
  brineKept,
  brineLeft,
  preparationMade,
  remainderReturned,
} from './preparations.js';
