export * from './movement.js';
export * from './tally.js';
export * from './draw.js';
export * from './ancestry.js';
export * from './carried.js';
