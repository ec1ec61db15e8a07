export * from './range.js';
export * from './splits.js';
