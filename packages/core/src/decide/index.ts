export * from './moment.js';
export * from './salting.js';
export * from './filling.js';
