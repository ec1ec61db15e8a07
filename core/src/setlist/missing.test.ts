import { expect, it } from 'vitest';
import { plan } from '../testing/small-show.js';
import { missingIn } from './missing.js';

it('tells each thing that a show needs and that is not there, once, and nothing of other songs', () => {
  const { patches, cues, devices, steps } = plan;
  const sounds = Object.fromEntries(plan.sounds);
  const there = { patches, cues, sounds, devices };
  expect(missingIn(steps, there)).toEqual([]);
  const { first, second } = patches;
  expect(missingIn(steps, { ...there, patches: { first } })).toEqual(['the patch of three']);
  const elsewhere = { ...second, id: 'other', songId: 'other' };
  const withoutModule = devices.filter(({ kind }) => kind !== 'module');
  expect(
    missingIn(steps, { ...there, patches: { first, second, elsewhere }, devices: withoutModule }),
  ).toEqual(['the module that plays outside']);
  expect(missingIn(steps, { ...there, sounds: { outside: sounds['outside'] } })).toEqual([
    'a sound of first',
  ]);
});
