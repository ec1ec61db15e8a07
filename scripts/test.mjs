// npm test: everything, in the order in which mistakes are cheapest to find. Ends with a count.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, findBrowser, install, run } from './preparing.mjs';

install();
findBrowser();
build();

let passed = 0;
let failed = 0;
const reports = mkdtempSync(join(tmpdir(), 'pentachord-reports-'));

function check(name, ...args) {
  console.log(`\n── ${name}`);
  if (run('npm', ['run', '--silent', ...args])) passed++;
  else failed++;
}

/** Runs tests and adds what their report counts; a run without a readable report counts as one failure. */
function tests(name, args, report, count, env = {}) {
  console.log(`\n── ${name}`);
  const well = run('npm', ['run', '--silent', ...args], { env: { ...process.env, ...env } });
  try {
    const [good, bad] = count(JSON.parse(readFileSync(report, 'utf8')));
    passed += good;
    failed += bad;
    if (!well && bad === 0) failed++;
  } catch {
    failed++;
  }
}

check('formatting', 'format:check');
check('lint', 'lint');
check('who imports whom', 'imports');
check('types', 'types');
const unit = join(reports, 'unit.json');
tests(
  'unit tests',
  ['test:unit', '--', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
  unit,
  ({ numPassedTests, numFailedTests }) => [numPassedTests, numFailedTests],
);
const face = join(reports, 'interface.json');
tests(
  'interface tests',
  ['test:e2e', '--', '--reporter=list,json'],
  face,
  ({ stats }) => [stats.expected + stats.flaky, stats.unexpected],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: face },
);

rmSync(reports, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
