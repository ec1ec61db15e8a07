import 'fake-indexeddb/auto';
import { expect, it } from 'vitest';
import { SoundCache } from './sound-cache';

it('forgets house sounds that are not made any more, and nothing else', async () => {
  const cache = new SoundCache();
  const samples = new Float32Array([0, 0.5, -0.5, 0]);
  const zone = {
    ...{ rootKey: 60, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
    ...{ sampleRate: 48_000, left: samples, right: samples },
    ...{ loopStart: -1, loopEnd: -1, loopDecay: 0 },
  };
  const [old, present, other] = ['0'.repeat(64), 'f'.repeat(64), 'recording/a'];
  for (const key of [old, present, other]) await cache.keep(key, [zone]);
  await cache.keepOnly(new Set([present]));
  expect(await cache.find(old)).toBeNull();
  expect(await cache.find(present)).toEqual([zone]);
  expect(await cache.find(other)).toEqual([zone]);
});
