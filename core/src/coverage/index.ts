export * from './coverage.js';
export * from './remarks.js';
