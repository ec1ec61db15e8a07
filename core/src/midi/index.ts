export * from './messages.js';
export * from './parser.js';
export * from './stand-ins.js';
