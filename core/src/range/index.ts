export * from './range.js';
export * from './decibels.js';
