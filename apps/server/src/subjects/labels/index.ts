// What other subjects may know of this one.
export { designKept, jarsLabelled, labelsCounted } from './jarLabels.js';
export { labelsPrinted } from './labels.js';
