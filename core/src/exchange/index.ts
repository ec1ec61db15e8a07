export * from './audio-files.js';
export * from './cannot-read.js';
export * from './decoded.js';
export * from './file-names.js';
export * from './archive.js';
export * from './recording-of.js';
export * from './wav-writing.js';
