export * from './zone.js';
export * from './partials.js';
export * from './recipe.js';
export * from './house-sounds.js';
export * from './room.js';
