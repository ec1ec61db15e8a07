export * from './messages.js';
export * from './parser.js';
export * from './running-status.js';
