export * from './equipment.js';
export * from './cleaning.js';
