export * from './yieldChain.js';
export * from './split.js';
export * from './formula.js';
export * from './scaleFormula.js';
export * from './working.js';
