// What other subjects may know of this one.
export { runChecked, runReleased, runStored, runWithdrawn } from './release.js';
