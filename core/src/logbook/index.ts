export * from './again.js';
export * from './bytes.js';
export * from './came-in.js';
export * from './cutting.js';
export * from './recorder.js';
export * from './roll.js';
export * from './sounded.js';
export * from './standing.js';
