import { configDefaults, defineConfig } from 'vitest/config';

const { MUTANTS_ROOM: room } = process.env;
if (!room) throw new Error('the room is wanting: run mutants.mjs');

export default defineConfig({
  test: {
    // What goes wrong in a room is to be noticed in that room, and at once.
    include: [`src/${room}/**/*.test.ts`],
    // A million bytes for each change would take hours, and tell what the other tests tell.
    exclude: [...configDefaults.exclude, 'src/playing/whatever-bytes.test.ts'],
    testTimeout: 60_000,
  },
});
