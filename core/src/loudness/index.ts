export * from './bs1770.js';
export * from './response.js';
export * from './plumb-line.js';
export * from './balance.js';
export * from './mixture.js';
export * from './strengths.js';
export * from './whole-loudness.js';
