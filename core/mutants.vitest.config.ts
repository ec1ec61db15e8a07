import { configDefaults, defineConfig } from 'vitest/config';
import { roomsThatTest } from './mutants.rooms.mjs';

export default defineConfig({
  test: {
    // What goes wrong in one of these rooms is to be noticed in these rooms, and at once.
    include: roomsThatTest(process.env.MUTANTS_ROOM).map((room) => `src/${room}/**/*.test.ts`),
    // A million bytes for each change would take hours, and tell what the other tests tell; counted memory is that of changed code.
    exclude: [
      ...configDefaults.exclude,
      'src/playing/whatever-bytes.test.ts',
      'src/playing/allocates-nothing.test.ts',
    ],
    // No test changes what others import: taken in once, it is good for all of them.
    isolate: false,
    testTimeout: 60_000,
  },
});
