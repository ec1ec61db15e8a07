export * from './range.js';
export * from './decibels.js';
export * from './splits.js';
