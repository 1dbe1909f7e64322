export * from './sauce.js';
export * from './countBottles.js';
export * from './jarMix.js';
export * from './finishes.js';
export * from './mixing.js';
export * from './volumeBalance.js';
export * from './finishGate.js';
export * from './restarts.js';
