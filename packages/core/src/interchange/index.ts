export * from './readLine.js';
export * from './readRecipe.js';
export * from './writeRecipe.js';
export * from './epcis.js';
export * from './readEpcis.js';
export * from './spreadsheetCell.js';
export * from './houseSheets.js';
