// What other subjects may know of this one.
export { entryCorrect } from './entryCorrect.js';
