export * from './show-clock.js';
export * from './stage.js';
export * from './chain.js';
export * from './chord.js';
