export * from './cost.js';
export * from './measuring.js';
