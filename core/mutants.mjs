// npm run mutants [room | room/file.ts …]: changes the core in small ways, and tells which changes no test notices.
import { spawnSync } from 'node:child_process';
import { ROOMS } from './mutants.rooms.mjs';

const asked = process.argv.slice(2);
for (const what of asked.length > 0 ? asked : ROOMS) {
  const [room, file] = what.split('/');
  const env = { ...process.env, MUTANTS_ROOM: room };
  // What can be changed is slower for it: a file by itself leaves the rest of its room as quick as it is.
  const only = file ? ['--mutate', `src/${room}/${file}`] : [];
  const { status } = spawnSync('stryker', ['run', ...only], { env, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
