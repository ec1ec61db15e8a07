// How the core is changed in small ways: mutants.mjs goes from room to room.
const { MUTANTS_ROOM: room } = process.env;

/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  testRunner: 'vitest',
  vitest: { configFile: 'mutants.vitest.config.ts' },
  coverageAnalysis: 'perTest',
  mutate: [`src/${room}/**/*.ts`, '!src/**/*.test.ts', '!src/**/index.ts', '!src/**/generated/**'],
  // Words of messages and texts of types are read by people, and are tested where they matter.
  mutator: { excludedMutations: ['StringLiteral'] },
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 5_000,
  reporters: ['clear-text', 'progress'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  thresholds: { high: 92, low: 85, break: null },
  tempDirName: 'mutants',
  cleanTempDir: 'always',
};
