// What other subjects may know of this one.
export { formulaRetire, formulaSave } from './formulas.js';
export { readFormula } from './readFormulas.js';
