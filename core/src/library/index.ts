export * from './shelf.js';
export * from './starting-points.js';
