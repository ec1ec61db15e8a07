// npm start: installs, builds and serves. The database and the demo are made by the server when they are missing.
import { spawn } from 'node:child_process';
import { build, install, root } from './preparing.mjs';

install();
build();
const server = spawn(process.execPath, ['server/dist/main.js'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
