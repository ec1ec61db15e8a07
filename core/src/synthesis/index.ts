export * from './click.js';
export * from './house-sounds.js';
export * from './partials.js';
export * from './recipe.js';
export * from './room.js';
export * from './source-zones.js';
export * from './source.js';
export * from './zone.js';
