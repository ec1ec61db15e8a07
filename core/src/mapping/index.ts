export * from './layouts.js';
export * from './loudness-steps.js';
export * from './note-claims.js';
export * from './playable-audio.js';
export * from './played-zones.js';
export * from './spans.js';
export * from './strengths-of-notes.js';
