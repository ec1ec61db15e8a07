import { holdBesideTheModel } from './beside-the-model.js';
import { openEveryView } from './browsers.js';
import { sendDamagedBodies } from './damaged-bodies.js';
import { readDamagedFiles } from './damaged-files.js';
import { editAtRandom } from './editing-at-random.js';
import { print } from './finding.js';
import { flipBits } from './flipped-bits.js';
import { playFourHours } from './four-hours.js';
import { killWhileSaving } from './kills.js';
import { followInBursts } from './leaders.js';
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
  print(holdBesideTheModel(Math.round(200_000 * share))),
  print(followInBursts()),
  print(askPatches(Math.round(100_000 * share))),
  print(playTwoHours(7200 * share)),
  print(playFourHours(14_400 * share)),
  print(await sendDamagedBodies(Math.ceil(12_000 * share))),
  print(await readDamagedFiles(Math.ceil(5000 * share))),
  print(await flipBits(Math.ceil(100 * share))),
  print(await killWhileSaving(Math.ceil(300 * share))),
  print(await editAtRandom(Math.ceil(1000 * share))),
  print(await openEveryView()),
];
process.exit(holds.every(Boolean) ? 0 : 1);
