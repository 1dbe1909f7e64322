// What other subjects may know of this one.
export { lossRecord } from './losses.js';
export { vesselSplit, vesselThrownOut, vesselToppedUp } from './tending.js';
