export * from './density.js';
export * from './strength.js';
export * from './hydrometer.js';
export * from './adjust.js';
export * from './forVessel.js';
