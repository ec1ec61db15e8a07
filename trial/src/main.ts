import { print } from './finding.js';
import { askPatches } from './patches.js';
import { playAtRandom } from './playing.js';
import { playTwoHours } from './two-hours.js';

/** How much of the whole is run: 1 for all of it, a few minutes. */
const share = Number(process.argv[2] ?? 1);
if (!(share > 0 && share <= 1)) {
  console.error('npm run trial -- SHARE: a number above 0 and up to 1, such as 0.01');
  process.exit(1);
}

const holds = [
  print(playAtRandom(Math.round(1_000_000 * share))),
  print(askPatches(Math.round(100_000 * share))),
  print(playTwoHours(7200 * share)),
];
process.exit(holds.every(Boolean) ? 0 : 1);
