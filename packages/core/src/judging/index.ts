export * from './verdicts.js';
export * from './facts.js';
export * from './findings.js';
export * from './judge.js';
export * from './saying.js';
