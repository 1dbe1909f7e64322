export * from './bounds.js';
export * from './dayNumber.js';
export { calendarDay, momentInWords } from './inWords.js';
export { laterLocalDay, localDaysBetween, momentsOfDay, noonOfDay, startOfLocalDay } from './localDay.js';
export * from './readDay.js';
export * from './readMoment.js';
