export * from './formulaFile.js';
