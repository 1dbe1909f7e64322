export * from './scope.js';
export * from './rate.js';
export * from './differences.js';
export * from './startable.js';
export * from './checkKinds.js';
export * from './checks.js';
export * from './windows.js';
export * from './beginnings.js';
