// npm run mutants [room …]: changes the core in small ways, room by room, and tells which changes no test notices.
import { spawnSync } from 'node:child_process';
import { ROOMS } from './mutants.rooms.mjs';

const asked = process.argv.slice(2);
for (const room of asked.length > 0 ? asked : ROOMS) {
  const env = { ...process.env, MUTANTS_ROOM: room };
  const { status } = spawnSync('stryker', ['run'], { env, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
