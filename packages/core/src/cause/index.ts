export * from './fisher.js';
export * from './sharedCause.js';
