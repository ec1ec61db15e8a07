export * from './decibels.js';
export * from './times.js';
