export * from './allergens.js';
export * from './rollUp.js';
export * from './compare.js';
export * from './allergenNames.js';
