export * from './shelf.js';
export * from './starting-points.js';
export * from './program-list.js';
