export * from './channels.js';
export * from './kinds.js';
export * from './moving.js';
export * from './plan.js';
export * from './rig-remarks.js';
export * from './senders.js';
