export * from './touch.js';
export * from './pulling.js';
export * from './fitting.js';
