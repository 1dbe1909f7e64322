export * from './training.js';
