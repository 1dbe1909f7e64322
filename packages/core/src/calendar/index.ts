export * from './dayNumber.js';
export * from './localDay.js';
