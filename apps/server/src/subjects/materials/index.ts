// What other subjects may know of this one.
export { materialAdd, materialChange } from './materials.js';
