// What other subjects may know of this one.
export { acceptWeak, freeFillCode, loadVessel, lotTransfer, vesselClosed, vesselFill, vesselMoved } from './filling.js';
export { vesselAdd, vesselChanged, vesselClean } from './vessels.js';
