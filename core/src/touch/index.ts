export * from './touch.js';
export * from './pulling.js';
