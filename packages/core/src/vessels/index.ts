export * from './materials.js';
export * from './usable.js';
export * from './headspace.js';
export * from './gas.js';
export * from './fit.js';
export * from './forms.js';
export * from './tags.js';
