export * from './standing.js';
export * from './afterPacking.js';
export * from './release.js';
export * from './fillWeights.js';
export * from './shelfLife.js';
export * from './pickList.js';
export * from './releaseAhead.js';
