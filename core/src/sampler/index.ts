export * from './command-ring.js';
export * from './voice-engine.js';
export * from './timbre.js';
