// What other subjects may know of this one.
export { lotCounted } from './counts.js';
export { lotOpen, packRun } from './packing.js';
