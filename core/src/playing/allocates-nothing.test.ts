import { beforeAll, describe, expect, it } from 'vitest';
import { newLayer } from '../model/patch/layer.js';
import { newPatch, newPatchSound } from '../model/patch/patch.js';
import type { ControlTarget } from '../model/patch/control-target.js';
import type { Tie } from '../model/patch/tie.js';
import { COMMAND, type CommandRing } from '../sampler/command-ring.js';
import { A_TIME, bytesAllocated, LOOKED_AT, SPARE } from '../testing/bytes-allocated.js';
import { EngineAtWork, still } from '../testing/engine-at-work.js';
import { plan, SmallShow } from '../testing/small-show.js';
import type { NowPlaying } from './show/show-plan.js';

const target = (parameter: 'level' | 'pan' | 'reverb'): ControlTarget => ({
  kind: 'layer',
  layerId: 'inside',
  parameter,
});
const tie = (id: string, controller: number, what: ControlTarget): Tie => ({
  ...{ id, place: 'keys1', message: { kind: 'controller', controller }, target: what },
  ...{ from: what.kind === 'layer' && what.parameter === 'pan' ? -1 : -40, to: 0, curve: 'even' },
  ...{ acts: 'usual', reads: 'position', pickUp: false, begins: 'now' },
});
/** Edges that at the keys and strengths of these tests let some of it through. */
const SOFT = {
  keys: { low: 40, high: 100, fadeIn: 40, fadeOut: 0, law: 'linear' },
  velocities: { low: 40, high: 127, fadeIn: 80, fadeOut: 0, law: 'linear' },
} as const;
const patch = {
  ...newPatch('first', 'song', 0, 'First'),
  sounds: [newPatchSound('house', 'house'), newPatchSound('outside', 'outside')],
  layers: [
    // At a key and a strength where its edges let less through.
    { ...newLayer('inside', 'Inside', 'house'), ...SOFT },
    newLayer('more', 'More', 'house'),
    { ...newLayer('outside', 'Outside', 'outside'), channel: 2 as const },
  ],
  controls: [
    tie('level', 20, target('level')),
    {
      ...tie('wheel', 0, target('level')),
      message: { kind: 'bend' as const },
      place: 'pads1' as const,
    },
    tie('pan', 21, target('pan')),
    tie('send', 22, target('reverb')),
    {
      ...tie('timbre', 23, { kind: 'sound', patchSoundId: 'house', parameter: 'brightness' }),
      ...{ from: -1, to: 1 },
    },
  ],
};
const place: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: null, patchId: 'first', soloed: new Set<string>() },
  ...{ asCue: false, showtime: true },
};

// What the compiler makes of it once is not what it makes of it always: judged anew where it was found wanting.
const AGAIN = { retry: 2 };

describe('the live path', AGAIN, () => {
  const small = new SmallShow();
  const bytes = new Uint8Array(3);
  const send = (status: number, a: number, b: number, port = 'upper port') => {
    bytes[0] = status;
    bytes[1] = a;
    bytes[2] = b;
    small.host.receive(port, bytes);
  };
  beforeAll(() => {
    const cues = {};
    small.hear = () => undefined;
    small.runner.follow({ ...plan, cues, patches: { ...plan.patches, first: patch } }, place);
  });
  it.each<[string, event: (i: number) => void]>([
    ['nothing at all', () => undefined],
    ['a key', (i) => send(i % 2 === 0 ? 0x90 : 0x80, 60, 90)],
    ['a chord of keys', (i) => send((i >> 2) % 2 === 0 ? 0x90 : 0x80, 60 + (i % 4) * 3, 90)],
    ['a key of a module', (i) => send(i % 2 === 0 ? 0x91 : 0x81, 60, 90)],
    ['the wheel', (i) => send(0xe0, i & 127, (i >> 7) & 127)],
    ['modulation', (i) => send(0xb0, 1, i & 127)],
    ['the expression pedal', (i) => send(0xb0, 11, i & 127)],
    ['aftertouch', (i) => send(0xd0, i & 127, 0)],
    ['a tied level', (i) => send(0xb0, 20, i & 127)],
    ['a tied pan', (i) => send(0xb0, 21, i & 127)],
    ['a tied send', (i) => send(0xb0, 22, i & 127)],
    ['a tied wheel', (i) => send(0xe9, i & 127, (i >> 7) & 127, 'pad port')],
    ['a tied timbre', (i) => send(0xb0, 23, i & 127)],
    ['the sustain pedal', (i) => send(0xb0, 64, i % 2 === 0 ? 127 : 0)],
  ])('allocates nothing for %s', (_what, event) => {
    const bound = A_TIME + SPARE;
    const each = bytesAllocated(bound, LOOKED_AT, (i) => {
      event(i);
      small.ring.clear();
      small.time += 0.001;
    });
    expect(each).toBeLessThan(bound);
  });
});

describe('the audio side', AGAIN, () => {
  let id = 0;
  const voicing = { attack: 0, release: 0.01, dynamics: 20, brightness: 9000, darkening: 1 };
  const strikes =
    (polyphony: number, glide: number, slot = 0) =>
    (write: CommandRing['write']) => {
      write(COMMAND.start, 0, ++id, 0, slot, 1, polyphony, 48 + (id % 24), 90, 0.7, glide);
      write(COMMAND.end, 0, id - 3);
    };
  it.each<[string, order: (write: CommandRing['write'], i: number) => void]>([
    ['a voice', strikes(0, 0)],
    ['a voice that takes the place of another', strikes(2, 0)],
    ['a note of a sound of one voice', strikes(1, 0.01)],
    ['a note of two zones that takes the place of another', strikes(2, 0, 1)],
    ['a note of two zones on a sound of one voice', strikes(1, 0.01, 1)],
    ['a level', (write, i) => write(COMMAND.level, 0, 0, -0.25 * (i & 63), 0.0125)],
    ['a pan', (write, i) => write(COMMAND.pan, 0, 0, (i & 127) / 128)],
    ['a send', (write, i) => write(COMMAND.send, 0, 0, 1, -0.25 * (i & 63), 0.0125)],
    ['a bend', (write, i) => write(COMMAND.bend, 0, (i & 127) / 64, 1, 0, 0, 0)],
    ['modulation', (write, i) => write(COMMAND.modulation, 0, 0, (i & 127) / 128, 0.0125)],
    ['expression', (write, i) => write(COMMAND.expression, 0, 0, (i & 127) / 128, 0.0125)],
  ])('allocates nothing for %s, nor for a block', (_what, order) => {
    const work = new EngineAtWork(voicing);
    work.load(0, still(0.1));
    work.engine.load(1, { voicing, zones: [still(0.1), still(0.2)], answering: 'all' });
    work.start(1e9);
    const write = work.ring.write.bind(work.ring);
    const each = bytesAllocated(SPARE, LOOKED_AT / 10, (i) => {
      order(write, i);
      work.engine.render(work.output);
    });
    expect(each).toBeLessThan(SPARE);
  });
});
