import { expect, it } from 'vitest';
import { askPatches } from './patches.js';
import { playAtRandom } from './playing.js';
import { playTwoHours } from './two-hours.js';

const broken = (findings: { what: string; found: string; holds: boolean }[]) =>
  findings.filter(({ holds }) => !holds).map(({ what, found }) => `${what}: ${found}`);

it('leaves no voice and throws nothing, whatever is played', () => {
  const [left, exceptions] = playAtRandom(6000, 11);
  expect(broken([left, exceptions])).toEqual([]);
});

it('balances and mends patches as it says', () => {
  expect(broken(askPatches(300, 12))).toEqual([]);
});

it('lets nothing beyond full scale out', () => {
  const [, loudest] = playTwoHours(5);
  expect(broken([loudest])).toEqual([]);
});
