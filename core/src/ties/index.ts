export * from './travel.js';
export * from './reading.js';
export * from './in-force.js';
export * from './targets.js';
export * from './words.js';
export * from './usual-use.js';
