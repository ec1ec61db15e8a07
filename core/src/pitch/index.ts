export * from './note-names.js';
export * from './musical-keys.js';
