export * from './claims.js';
export * from './claimWords.js';
export * from './design.js';
export * from './words.js';
export * from './layOut.js';
export * from './symbols.js';
