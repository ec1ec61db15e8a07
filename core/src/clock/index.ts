export * from './bar.js';
export * from './glide.js';
export * from './incoming-clock.js';
export * from './show-clock.js';
export * from './tap-tempo.js';
