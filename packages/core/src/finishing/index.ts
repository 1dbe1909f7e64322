export * from './sauce.js';
export * from './countBottles.js';
export * from './jarMix.js';
