export * from './moment.js';
export * from './salting.js';
export * from './packing.js';
export * from './filling.js';
