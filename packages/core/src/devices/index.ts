export * from './scaleUnits.js';
export * from './deviceLine.js';
export * from './takeReading.js';
export * from './portions.js';
export * from './label.js';
