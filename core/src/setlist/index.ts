export * from './recall.js';
export * from './removing.js';
export * from './running-order.js';
