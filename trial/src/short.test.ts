import { expect, it } from 'vitest';
import { holdBesideTheModel } from './beside-the-model.js';
import { sendDamagedBodies } from './damaged-bodies.js';
import { readDamagedFiles } from './damaged-files.js';
import { flipBits } from './flipped-bits.js';
import { followInBursts } from './leaders.js';
import { playFourHours } from './four-hours.js';
import { askPatches } from './patches.js';
import { playAtRandom } from './playing.js';
import { playTwoHours } from './two-hours.js';

const broken = (findings: { what: string; found: string; holds: boolean }[]) =>
  findings.filter(({ holds }) => !holds).map(({ what, found }) => `${what}: ${found}`);

it('leaves no voice and throws nothing, whatever is played', () => {
  const [left, exceptions] = playAtRandom(6000, 11);
  expect(broken([left, exceptions])).toEqual([]);
});

it('sounds as a plain model of it says, after every event', () => {
  expect(broken(holdBesideTheModel(8000, 15))).toEqual([]);
});

it('follows a leader whose ticks come in bursts', () => {
  expect(broken(followInBursts(4))).toEqual([]);
});

it('balances and mends patches as it says', () => {
  expect(broken(askPatches(300, 12))).toEqual([]);
});

it('lets nothing beyond full scale out', () => {
  const [, loudest] = playTwoHours(5);
  expect(broken([loudest])).toEqual([]);
});

it('keeps time to the frame through changes of tempo, for itself and for others', () => {
  expect(broken(playFourHours(400))).toEqual([]);
});

it('answers no damaged body with a mistake of its own, and changes nothing it refuses', async () => {
  expect(broken(await sendDamagedBodies(150, 13))).toEqual([]);
});

it('reads damaged audio files of every kind, or refuses them with the reason, and soon', async () => {
  expect(broken(await readDamagedFiles(25))).toEqual([]);
});

it('opens databases with flipped bits, or offers the backup, and shows nothing wrong without a word', async () => {
  expect(broken(await flipBits(6, 8, 14))).toEqual([]);
});
