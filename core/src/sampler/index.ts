export * from './block.js';
export * from './command-ring.js';
export * from './limiter.js';
export * from './meters.js';
export * from './timbre.js';
export * from './voice-engine.js';
export { MOST_VOICES, VOICES } from './voices.js';
export * from './zone-table.js';
