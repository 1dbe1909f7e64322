// What other subjects may know of this one.
export { brineJoined, brineKept, brineLeft, preparationMade, remainderReturned } from './preparations.js';
