export * from './compile.js';
export * from './judge.js';
export * from './trace.js';
export * from './player.js';
export * from './hands.js';
export * from './transposition.js';
