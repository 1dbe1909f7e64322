// What other subjects may know of this one.
export { labelsPrinted } from './labels.js';
