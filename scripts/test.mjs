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
/** What failed, by name: told again at the end, where it is looked for. */
const wrong = [];
const reports = mkdtempSync(join(tmpdir(), 'pentachord-reports-'));

function check(name, ...args) {
  console.log(`\n── ${name}`);
  if (run('npm', ['run', '--silent', ...args])) passed++;
  else {
    failed++;
    wrong.push(name);
  }
}

/** Runs tests and adds what their report says, the good ones as a number, the bad ones by name; a run without a readable report counts as one failure. */
function tests(name, args, report, count, env = {}) {
  console.log(`\n── ${name}`);
  const well = run('npm', ['run', '--silent', ...args], { env: { ...process.env, ...env } });
  try {
    const [good, bad] = count(JSON.parse(readFileSync(report, 'utf8')));
    passed += good;
    failed += bad.length;
    wrong.push(...bad);
    if (well || bad.length > 0) return;
    failed++;
    wrong.push(`${name}: ended badly, though no test failed`);
  } catch {
    failed++;
    wrong.push(`${name}: no report`);
  }
}

/** Every test of a suite and of those within it, with how it ended and what its first try took. */
function specsOf({ specs = [], suites = [] }) {
  const own = specs.flatMap(({ title, tests: runs }) =>
    runs.map(({ status, results }) => ({
      title,
      status,
      seconds: (results[0]?.duration ?? 0) / 1000,
    })),
  );
  return [...own, ...suites.flatMap(specsOf)];
}

check('formatting', 'format:check');
check('lint', 'lint');
check('who imports whom', 'imports');
check('types', 'types');
check('licences', 'licences');
const unit = join(reports, 'unit.json');
tests(
  'unit tests',
  ['test:unit', '--', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
  unit,
  ({ numPassedTests, testResults }) => [
    numPassedTests,
    testResults.flatMap(({ assertionResults }) =>
      assertionResults.filter((test) => test.status === 'failed').map((test) => test.fullName),
    ),
  ],
);
const face = join(reports, 'interface.json');
const ran = [];
tests(
  'interface tests',
  ['test:e2e', '--', '--reporter=list,json'],
  face,
  (report) => {
    ran.push(...report.suites.flatMap(specsOf));
    const bad = ran.filter((spec) => spec.status === 'unexpected').map(({ title }) => title);
    return [report.stats.expected, bad];
  },
  { PLAYWRIGHT_JSON_OUTPUT_NAME: face },
);
if (ran.length > 0) {
  console.log('\n── the slowest interface tests');
  const slowest = ran.toSorted((a, b) => b.seconds - a.seconds).slice(0, 10);
  for (const { seconds, title } of slowest) console.log(`${seconds.toFixed(1)} s  ${title}`);
}
const flaky = ran.filter((spec) => spec.status === 'flaky');
if (flaky.length > 0) {
  console.log(`\n── ${flaky.length} passed only when tried again, counted neither way`);
  for (const { title } of flaky) console.log(title);
}
if (wrong.length > 0) {
  console.log(`\n── failed`);
  for (const name of wrong) console.log(name);
}

rmSync(reports, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
