export { toGrams, toMilligrams } from './columns.js';
export * from './journal.js';
export * from './house.js';
export * from './stores.js';
export * from './ledger.js';
export * from './making.js';
export * from './watching.js';
export * from './correcting.js';
export * from './jars.js';
