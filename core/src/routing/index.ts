export * from './compile.js';
export * from './judge.js';
export * from './trace.js';
export * from './hands.js';
export * from './transposition.js';
export * from './hearing.js';
export * from './patch-in-play.js';
export * from './silence.js';
