export * from './dueChecks.js';
export * from './meters.js';
export * from './trend.js';
export * from './lateness.js';
export * from './temperatures.js';
export * from './acidity.js';
export * from './doneness.js';
export * from './holds.js';
