export * from './note-stage.js';
export * from './chain.js';
export * from './chord.js';
