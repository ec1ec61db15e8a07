import { configDefaults, defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts'],
    // A million bytes for each change would take hours, and tell what the other tests tell.
    exclude: [...configDefaults.exclude, 'src/playing/whatever-bytes.test.ts'],
    testTimeout: 60_000,
  },
});
