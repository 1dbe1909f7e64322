/** Clear Tally's computation: pure, without clock, randomness or I/O of its own. */
export * from './refusal.js';
export * from './units/index.js';
export * from './salt/index.js';
export * from './brine/index.js';
export * from './vessels/index.js';
export * from './scaling/index.js';
export * from './finishing/index.js';
export * from './rollup/index.js';
export * from './formula/index.js';
export * from './interchange/index.js';
export * from './house/index.js';
export * from './stores/index.js';
export * from './codes/index.js';
export * from './ledger/index.js';
export * from './calendar/index.js';
export * from './decide/index.js';
