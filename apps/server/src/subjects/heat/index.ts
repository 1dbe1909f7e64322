// What other subjects may know of this one.
export { loadHeated, processEnded, processFiled, sealsLooked } from './heat.js';
