export * from './coverage.js';
export * from './remark.js';
export * from './remarks.js';
export * from './mends.js';
