export * from './bounds.js';
export * from './dayNumber.js';
export { laterLocalDay, localDaysBetween, momentsOfDay, startOfLocalDay } from './localDay.js';
export * from './readDay.js';
export * from './readMoment.js';
