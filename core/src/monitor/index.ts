export * from './meaning.js';
export * from './message-log.js';
