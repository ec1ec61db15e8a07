// npm run dev: core and server rebuilt on change, the server restarted, the pages reloaded by Angular's own server.
import { spawn } from 'node:child_process';
import { build, install, root } from './preparing.mjs';

install();
build();
const started = [
  ['npm', ['run', '--silent', 'watch', '-w', 'core']],
  ['npm', ['run', '--silent', 'watch', '-w', 'server']],
  [process.execPath, ['--watch', 'server/dist/main.js']],
  ['npm', ['exec', '--workspace', 'web', '--', 'ng', 'serve']],
].map(([command, args]) => spawn(command, args, { cwd: root, stdio: 'inherit' }));

const stop = () => started.forEach((child) => child.kill());
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
