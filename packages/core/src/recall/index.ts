export * from './crate.js';
export * from './complaint.js';
