export * from './measures.js';
export * from './parseNumber.js';
export * from './parseMass.js';
export * from './parsePh.js';
export * from './temperature.js';
export * from './volume.js';
export * from './format.js';
