/** Every entry, reply and problem that crosses the wire. */
export * from './entries/index.js';
export * from './problem.js';
export * from './replies/index.js';
export * from './files/index.js';
