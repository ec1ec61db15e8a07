export * from './compiled-band.js';
export { HOUSE_PATTERNS } from './house/index.js';
export * from './in-key.js';
export * from './key-guess.js';
export * from './mending.js';
export * from './placing.js';
export * from './ready-pattern.js';
export * from './shaped.js';
export * from './words.js';
