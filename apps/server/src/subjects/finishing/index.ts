// What other subjects may know of this one.
export { byProductTaken } from './byProduct.js';
export { finishAdded } from './finishAdd.js';
export { finishBegun } from './finishBegin.js';
export { finishBrined } from './finishBrine.js';
export { finishDried } from './finishDry.js';
export { bottlesLevelled } from './levelling.js';
