import { describe, expect, it } from 'vitest';
import { newTreatment } from '../model/patch/treatment.js';
import { rangeGain } from '../range/range.js';
import { keyboard, keys, layer, patchOf, velocities } from '../testing/fixtures.js';
import { EVEN_TOUCH, touchOut } from '../touch/touch.js';
import { compilePatch, compileRig } from './compile.js';
import { MOST_DEVICES } from '../model/rig/rig.js';

describe('making a rig ready', () => {
  it('puts each keyboard’s touch and octave shift into tables, and leaves other devices plain', () => {
    const touch = { ...EVEN_TOUCH, inLow: 20, below: 'silent' as const, bend: 0.5 };
    const rig = compileRig([
      keyboard('upper', { octaveShift: -2, touch }),
      {
        kind: 'controlBox',
        id: 'pads',
        rigId: 'show',
        position: 1,
        name: 'Pads',
        place: 'pads1',
        port: 'pads',
        at: null,
        alsoAt: [],
        heardAs: null,
        settings: { known: null, wanted: {} },
        channel: 10,
        padNotes: [],
        knobControllers: [],
      },
    ]);
    expect([rig.keyShift[0], rig.keyShift[1]]).toEqual([-24, 0]);
    for (let v = 1; v <= 127; v++) {
      expect(rig.touch[v]).toBe(touchOut(touch, v));
      expect(rig.touch[128 + v]).toBe(v);
    }
  });

  it('leaves out what there is no room for', () => {
    const many = Array.from({ length: 40 }, (_, i) => keyboard(`board-${i}`));
    expect(compileRig(many).ids).toHaveLength(MOST_DEVICES);
  });
});

describe('making a patch ready', () => {
  const rig = compileRig([keyboard('upper'), keyboard('lower')]);

  it('holds in tables what the ranges and the touch say', () => {
    const source = layer('a', {
      keys: keys(40, 70, 5, 3),
      velocities: velocities(30, 90, 0, 12),
      touch: { ...EVEN_TOUCH, bend: -0.4 },
    });
    const [ready] = compilePatch(patchOf([source]), { rig, songShift: 0 }).layers;
    for (let n = 0; n < 128; n++) {
      expect(ready.keyGain[n]).toBeCloseTo(rangeGain(source.keys, n), 6);
      expect(ready.velocityGain[n]).toBeCloseTo(rangeGain(source.velocities, n), 6);
      expect(ready.touch[n]).toBe(n === 0 ? 0 : touchOut(source.touch, n));
    }
  });

  it('hears the keyboards named, and none for one that has left the rig', () => {
    const [lower, gone, any] = compilePatch(
      patchOf([
        layer('a', { keyboards: ['keys2'] }),
        layer('b', { keyboards: ['keys9'] }),
        layer('c'),
      ]),
      { rig, songShift: 0 },
    ).layers;
    expect([lower, gone, any].map((l) => [l.hearsDevice[0], l.hearsDevice[1]])).toEqual([
      [0, 1],
      [0, 0],
      [1, 1],
    ]);
  });

  it('gives each layer its own treatments and colour, and makes tables once for what stays the same', () => {
    const source = layer('a', { lift: { floor: 60, on: true } });
    const treatments = [
      newTreatment('chord', 'for a', ['a']),
      newTreatment('chord', 'for b', ['b']),
    ];
    const patch = { ...patchOf([source, layer('b')]), treatments };
    const [first] = compilePatch(patch, { rig, songShift: 0 }).layers;
    expect(first.treatments.map(({ id }) => id)).toEqual(['for a']);
    expect(first.touch).toBe(first.liftedTouch);
    expect(first.liftedTouch[1]).toBe(60);
    const [again] = compilePatch(
      { ...patch, layers: [{ ...source, level: 0 }] },
      { rig, songShift: 0 },
    ).layers;
    expect([again.plainTouch, again.liftedTouch, again.keyGain]).toEqual([
      first.plainTouch,
      first.liftedTouch,
      first.keyGain,
    ]);
    expect(again.plainTouch).toBe(first.plainTouch);
    expect(again.liftedTouch).toBe(first.liftedTouch);
    expect(again.keyGain).toBe(first.keyGain);
    const timbre = { ...patch.sounds[0].timbre, brightness: 0.5 };
    const bright = { ...patch, sounds: [{ ...patch.sounds[0], timbre }, patch.sounds[1]] };
    expect(compilePatch(bright, { rig, songShift: 0 }).layers[0].loudnessKey).not.toBe(
      first.loudnessKey,
    );
    // A layer whose sound is gone is made ready all the same.
    const [lost] = compilePatch({ ...patch, sounds: [] }, { rig, songShift: 0 }).layers;
    expect(lost.librarySoundId).toBe('');
  });
});
