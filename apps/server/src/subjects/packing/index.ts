// What other subjects may know of this one.
export { lotCounted } from './counts.js';
export { lotOpen } from './lotOpen.js';
export { packRun } from './packing.js';
