export * from './in-key.js';
export * from './key-guess.js';
export * from './shaped.js';
