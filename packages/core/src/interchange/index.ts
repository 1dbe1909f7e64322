export * from './readRecipe.js';
export * from './writeRecipe.js';
