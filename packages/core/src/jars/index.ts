export * from './standing.js';
export * from './afterPacking.js';
export * from './release.js';
