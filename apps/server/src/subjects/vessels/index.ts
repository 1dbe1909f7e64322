// What other subjects may know of this one.
export { vesselClosed, vesselMoved } from './closing.js';
export { acceptWeak, freeFillCode, loadVessel, vesselFill } from './filling.js';
export { lotTransfer } from './transfer.js';
export { vesselAdd, vesselChanged, vesselClean } from './vessels.js';
