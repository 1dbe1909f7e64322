export * from './lethality.js';
export * from './heatLog.js';
export * from './process.js';
export * from './compare.js';
export * from './heatedJars.js';
