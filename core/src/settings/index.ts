export * from './comparing.js';
export * from './exchange.js';
export * from './packets.js';
export * from './stand-in-memory.js';
export * from './stroke-curve.js';
