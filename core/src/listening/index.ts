export * from './listen-to.js';
export type { HeardPitch } from './pitch.js';
