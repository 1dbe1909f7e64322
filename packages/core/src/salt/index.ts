export * from './bases.js';
export * from './waterPhase.js';
export * from './bands.js';
export * from './atTheScale.js';
export * from './waysBack.js';
export * from './topUp.js';
export * from './lateIngredient.js';
