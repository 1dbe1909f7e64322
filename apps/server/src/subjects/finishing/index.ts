// What other subjects may know of this one.
export { byProductTaken, finishAdded, finishBegun, finishBrined, finishDried } from './finishing.js';
export { bottlesLevelled } from './levelling.js';
