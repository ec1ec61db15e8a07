import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newChooser } from '../model/patch/chooser.js';
import type { Layer } from '../model/patch/layer.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import {
  anyLayers,
  compiled,
  demoRig,
  keys,
  layer,
  patchOf,
  velocities,
} from '../testing/fixtures.js';
import { compilePatch, compileRig } from './compile.js';
import { silenceInWords } from './silence.js';
import { isHeard, trace } from './trace.js';

const played = { device: 0, channel: 1, key: 60, velocity: 80 };
const why = (layers: Layer[], soloed?: Set<string>) =>
  silenceInWords(compiled(layers, { soloed }), played, 4);

describe('why a key sounds nothing', () => {
  it.each<[string, Layer[], string]>([
    ['no layers', [], 'this patch has no layers yet'],
    ['another keyboard', [layer('a', { keyboards: ['keys2'] })], 'no layer listens to it'],
    [
      'another channel',
      [layer('a', { channel: 7 }), layer('b', { channel: 9 })],
      'no layer listens to channel 1',
    ],
    [
      'another channel than the only one that listens here',
      [layer('a', { channel: 7 }), layer('b', { keyboards: ['keys2'] })],
      'A listens on channel 7; this came on 1',
    ],
    [
      'keys below',
      [layer('a', { keys: keys(20, 40) })],
      'A lies elsewhere, the key is above its keys, which end at E2',
    ],
    [
      'harder than it answers',
      [layer('a', { velocities: velocities(1, 60) })],
      'A is there, but it was harder than it answers, which is up to 60',
    ],
    [
      'keys above',
      [layer('a', { keys: keys(70, 80) })],
      'A lies elsewhere, the key is below its keys, which begin at B♭4',
    ],
    [
      'softer than it answers',
      [layer('a', { velocities: velocities(90, 127) })],
      'A is there, but it was softer than it answers, which is from 90',
    ],
    ['muted', [layer('a', { keys: keys(0, 20) }), layer('b', { muted: true })], 'B is muted'],
    [
      'its touch',
      [layer('a', { touch: { ...EVEN_TOUCH, inLow: 100, below: 'silent' } })],
      'A waits: its touch silences everything under 100',
    ],
  ])('is told by the layer that came nearest to sounding: %s', (_, layers, words) => {
    expect(why(layers)).toBe(`Upper keys C4 sounds nothing: ${words}`);
  });

  it('is nothing when something is heard, and everything has a reason otherwise', () => {
    expect(why([layer('a'), layer('b', { muted: true })])).toBeNull();
    fc.assert(
      fc.property(
        anyLayers,
        fc.integer({ min: 28, max: 103 }),
        fc.integer({ min: 1, max: 127 }),
        (layers, key, velocity) => {
          const patch = compiled(layers);
          const note = { ...played, key, velocity };
          const heard = trace(patch, note).layers.some(isHeard);
          const words = silenceInWords(patch, note, 4);
          expect(words === null).toBe(heard);
          if (words !== null) expect(words).toMatch(/^Upper keys .+ sounds nothing: .+/);
        },
      ),
    );
  });

  it('is another layer’s solo, another choice, the end of MIDI, or that no patch is open', () => {
    expect(why([layer('a'), layer('b', { keyboards: ['keys2'] })], new Set(['b']))).toBe(
      'Upper keys C4 sounds nothing: A waits: another layer is soloed',
    );
    const layers = [layer('a'), layer('b', { keyboards: ['keys2'] })];
    const patch = {
      ...patchOf(layers),
      choosers: [{ ...newChooser('c', 'Chooser', layers), chosen: 1 }],
    };
    const ready = compilePatch(patch, { rig: compileRig(demoRig), songShift: 0 });
    expect(silenceInWords(ready, played, 4)).toBe(
      'Upper keys C4 sounds nothing: A waits: another choice is picked',
    );
    const beyond = compiled([layer('a', { transpose: 60 }), layer('b', { transpose: 60 })]);
    expect(silenceInWords(beyond, { ...played, key: 100 }, 4)).toBe(
      'Upper keys E7 sounds nothing: A would sound outside the MIDI notes 0–127',
    );
    expect(silenceInWords(null, played, 4)).toBe('C4 sounds nothing: no patch is open');
  });
});
