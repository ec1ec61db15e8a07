import { expect, it } from 'vitest';
import { A_TIME, bytesAllocated, LOOKED_AT, SPARE } from '../testing/bytes-allocated.js';
import { plan, SmallShow } from '../testing/small-show.js';
import { newTake, TakeRecorder } from './index.js';

/** Events after which what was written is taken away, as the page does a few times a second. */
const TAKEN_AWAY = 2000;

// What the compiler makes of it once is not what it makes of it always: judged anew where it was found wanting.
it('writing down what is played allocates nothing on the live path', { retry: 2 }, () => {
  const small = new SmallShow();
  small.live.follow(plan, {
    ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
    ...{ soloed: new Set<string>(), asCue: true, showtime: true },
  });
  const recorder = new TakeRecorder(small.live, () => small.time);
  recorder.begin(
    newTake({
      ...{ id: 'take', name: 'A take', where: 'desk' as const, began: 0 },
      ...{ showId: null, show: '' },
    }),
  );
  const bytes = Uint8Array.of(0, 0, 90);
  let records = 0;
  // When it came, when it was written, and what it is since the take began: fractions, and no object besides.
  const bound = 3 * A_TIME + SPARE;
  const each = bytesAllocated(bound, LOOKED_AT, (i) => {
    bytes[0] = (i >> 2) % 2 === 0 ? 0x90 : 0x80;
    bytes[1] = 60 + (i % 4) * 3;
    small.host.receive('upper port', bytes);
    small.ring.clear();
    small.time += 0.001;
    if (i % TAKEN_AWAY === 0) records += (recorder.takeAway()?.roll.length ?? 0) / 16;
  });
  expect(each).toBeLessThan(bound);
  expect(records).toBeGreaterThan(100_000);
  expect(recorder.takeAway()?.take.lost).toBe(0);
});
