// npm run bring-in -- PATH…: what is printed while it installs and builds goes to standard error; standard output is the command's.
import { spawnSync } from 'node:child_process';
import { root } from './preparing.mjs';

const prepare =
  "import('./scripts/preparing.mjs').then(({ install, build }) => { install(); build(); })";
const ready = spawnSync(process.execPath, ['-e', prepare], {
  cwd: root,
  stdio: ['inherit', process.stderr, process.stderr],
});
if (ready.status !== 0) process.exit(ready.status ?? 1);
const { status } = spawnSync(
  process.execPath,
  ['server/dist/bring-in-command.js', ...process.argv.slice(2)],
  {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, INIT_CWD: process.env.INIT_CWD ?? process.cwd() },
  },
);
process.exit(status ?? 1);
