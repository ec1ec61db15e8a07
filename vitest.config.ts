import { defineConfig } from 'vitest/config';

/** Tests say what is right, not how fast: none fails because the machine is busy. */
const testTimeout = 60_000;

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', root: 'core', include: ['src/**/*.test.ts'], testTimeout } },
      { test: { name: 'trial', root: 'trial', include: ['src/**/*.test.ts'], testTimeout } },
      { test: { name: 'server', root: 'server', include: ['src/**/*.test.ts'], testTimeout } },
      {
        test: {
          name: 'web',
          root: 'web',
          include: ['src/**/*.test.ts'],
          testTimeout,
          setupFiles: ['src/testing/compiler.ts'],
        },
      },
    ],
  },
});
