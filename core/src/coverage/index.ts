export * from './coverage.js';
export * from './remark.js';
export * from './remarks.js';
export * from './mends.js';
export * from './moving-split.js';
export * from './arranging.js';
export * from './never-heard.js';
export * from './show-remarks.js';
