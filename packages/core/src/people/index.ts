export * from './training.js';
export * from './passphrase.js';
