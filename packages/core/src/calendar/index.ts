export * from './bounds.js';
export * from './dayNumber.js';
export * from './localDay.js';
export * from './readDay.js';
