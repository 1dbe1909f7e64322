export * from './rules.js';
export * from './effects.js';
