export * from './equipment.js';
export * from './weighedOn.js';
export * from './cleaning.js';
