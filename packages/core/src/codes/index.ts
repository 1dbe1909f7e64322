export * from './checkCharacter.js';
export * from './lotCode.js';
export * from './jarCode.js';
