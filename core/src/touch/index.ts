export * from './touch.js';
