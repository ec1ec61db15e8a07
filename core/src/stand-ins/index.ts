export * from './stand-ins.js';
