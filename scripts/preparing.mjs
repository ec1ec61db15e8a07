// Installing, building, finding a browser: what the commands have in common.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
export const CHROMIUM = '/usr/bin/chromium';

/** Runs a command with its output on screen; true when it went well. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  return status === 0;
}

function newest(path) {
  const stats = statSync(path, { throwIfNoEntry: false });
  if (!stats) return 0;
  if (!stats.isDirectory()) return stats.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))));
}

/** Installs the packages when they are missing or older than the lock file. */
export function install() {
  const installed = newest(join(root, 'node_modules/.package-lock.json'));
  if (installed >= newest(join(root, 'package-lock.json'))) return;
  console.log('Installing packages; the first time takes a few minutes.');
  if (!run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']))
    fail('The packages could not be installed.');
}

const SOURCES = [
  'package-lock.json',
  'core/inner-loops',
  'core/src',
  'server/src',
  'web/src',
  'web/angular.json',
  'web/build-worklet.mjs',
];
const STAMP = join(root, 'node_modules/.cache/pentachord-built');
const BUILT = [
  'core/src/sampler/generated/inner-loop-code.ts',
  'core/src/synthesis/generated/partials-code.ts',
  'core/dist',
  'server/dist/main.js',
  'web/dist/web/browser/index.html',
];

/** Builds when something changed since the last build. */
export function build() {
  const present = BUILT.every((path) => existsSync(join(root, path)));
  const stamp = newest(STAMP);
  if (present && SOURCES.every((path) => newest(join(root, path)) < stamp)) return;
  if (!run('npm', ['run', '--silent', 'build'])) fail('Building failed.');
  mkdirSync(dirname(STAMP), { recursive: true });
  writeFileSync(STAMP, '');
}

/** Sees to a browser for the interface tests. */
export function findBrowser() {
  if (existsSync(CHROMIUM)) return;
  const command = 'apt-get update && apt-get install -y --no-install-recommends chromium';
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Chromium for the interface tests.');
    run('sh', ['-c', `${command} > /dev/null`]);
  }
  if (!existsSync(CHROMIUM))
    fail(`The interface tests need Chromium. Run: sudo sh -c '${command}'`);
}

/** Says what went wrong and ends. */
export function fail(words) {
  console.error(words);
  process.exit(1);
}
