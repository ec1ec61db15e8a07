// npm run mutants [room …]: changes the core in small ways, room by room, and tells which changes no test of the room notices.
import { spawnSync } from 'node:child_process';

const ROOMS = [
  'range',
  'touch',
  'routing',
  'playing',
  'coverage',
  'loudness',
  'treatments',
  'sampler',
];

const asked = process.argv.slice(2);
for (const room of asked.length > 0 ? asked : ROOMS) {
  const env = { ...process.env, MUTANTS_ROOM: room };
  const { status } = spawnSync('stryker', ['run'], { env, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
