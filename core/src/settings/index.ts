export * from './comparing.js';
export * from './exchange.js';
export * from './packets.js';
export * from './pad-touch.js';
export * from './stand-in-memory.js';
export * from './stroke-curve.js';
export * from './presets.js';
export * from './recipes.js';
