// What other subjects may know of this one.
export { acceptWeak, freeFillCode, loadVessel, lotTransfer, vesselClosed, vesselFill, vesselMoved } from './filling.js';
export { vesselAdd, vesselClean } from './vessels.js';
