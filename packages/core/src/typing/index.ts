export * from './unfit.js';
