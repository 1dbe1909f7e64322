// What other subjects may know of this one.
export { findingRecorded } from './findings.js';
