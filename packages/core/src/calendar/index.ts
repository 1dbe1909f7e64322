export * from './dayNumber.js';
