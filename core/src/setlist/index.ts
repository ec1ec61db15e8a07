export * from './glide.js';
export * from './recall.js';
export * from './running-order.js';
