export * from './range.js';
export * from './splits.js';
export * from './rows.js';
