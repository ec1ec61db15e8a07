// Zod looks here before anything else. Otherwise its first schema tries whether code may be made from text; the page's policy
// says no, and reports it. Loaded before all other script, since a bundle may run its schemas before its own first line.
Object.assign(globalThis, { __zod_globalConfig: { jitless: true } });
export {};
