import { describe, expect, it } from 'vitest';
import { PLAIN_ZONE, type SampleZone } from '../model/library/sample-zone.js';
import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METERS } from '../sampler/meters.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import { spectrumAt } from '../listening/spectrum.js';
import { playableAudio, type PlayableAudio } from './playable-audio.js';
import { loadedSound, memoryOf, ringsOn } from './played-zones.js';
import { soundedBy } from './sounded.js';
import { moveZones } from './zone-moves.js';

const RATE = 48_000;
const all = { low: 0, high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' } as const;
const hard = { ...all, low: 1 };

let count = 0;
const zone = (changes: Partial<SampleZone> = {}): SampleZone => ({
  ...PLAIN_ZONE,
  ...{ id: `z${++count}`, recordingId: 'a', root: 60, keys: all, velocities: hard, ...changes },
});
const sine = (frequency: number, seconds = 2, size = 0.5) =>
  Float32Array.from(
    { length: RATE * seconds },
    (_, i) => size * Math.sin((2 * Math.PI * frequency * i) / RATE),
  );
/** Still air at one level, so that what is heard tells who sounds. */
const still = (level: number, frames = RATE) => new Float32Array(frames).fill(level);
const audio = (left: Float32Array, bits = 32, right = left): PlayableAudio =>
  playableAudio({ channels: [left, right], sampleRate: RATE, bits });

function engineWith(zones: SampleZone[], sounds: Record<string, PlayableAudio>) {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(RATE, ring, new Float32Array(METERS));
  const origin = { kind: 'recordings', dynamics: 0, zones } as const;
  engine.load(
    0,
    loadedSound({ ...origin, zones: [...zones] }, (id) => sounds[id]),
  );
  ring.write(COMMAND.level, 0, 0, 0, 0);
  const output = blockOutput();
  let voice = 0;
  return {
    strike: (note: number, velocity = 100) =>
      ring.write(COMMAND.start, 0, ++voice, 0, 0, 1, 0, note, velocity, 1),
    letGo: () => ring.write(COMMAND.end, 0, voice),
    render: (seconds: number) => {
      const blocks = Math.ceil((seconds * RATE) / BLOCK);
      const heard = {
        left: new Float32Array(blocks * BLOCK),
        right: new Float32Array(blocks * BLOCK),
      };
      for (let i = 0; i < blocks; i++) {
        engine.render(output);
        heard.left.set(output.mix.left, i * BLOCK);
        heard.right.set(output.mix.right, i * BLOCK);
      }
      return heard;
    },
  };
}
/** What still recordings add up to after a moment. */
const levelAfter = (engine: ReturnType<typeof engineWith>, seconds = 0.1) =>
  engine.render(seconds).left.at(-1) ?? NaN;

describe('a sound of recordings in the engine', () => {
  it('sounds every zone that holds a key, each at its gain, pan and fades', () => {
    const sounds = { a: audio(still(0.1)), b: audio(still(0.2), 16) };
    const fading = { ...all, low: 60, high: 63, fadeIn: 3 };
    const engine = engineWith(
      [zone({ tracking: 0 }), zone({ recordingId: 'b', keys: fading, gain: -6, tracking: 0 })],
      sounds,
    );
    engine.strike(61);
    expect(levelAfter(engine)).toBeCloseTo(0.1 + 0.2 * 10 ** (-6 / 20) * Math.sin(Math.PI / 4), 3);
    const panned = engineWith([zone({ pan: -1, tracking: 0 })], sounds);
    panned.strike(60);
    const { left, right } = panned.render(0.1);
    expect(left.at(-1)).toBeCloseTo(0.1 * Math.SQRT2, 3);
    expect(right.at(-1)).toBeCloseTo(0, 5);
  });

  it('takes turns key by key, whatever is struck in between', () => {
    const sounds = { a: audio(still(0.1)), b: audio(still(0.2)), c: audio(still(0.4)) };
    const turns = ['a', 'b', 'c'].map((recordingId, i) =>
      zone({ recordingId, turn: i + 1, tracking: 0, release: 0.001 }),
    );
    const engine = engineWith(turns, sounds);
    const heard = [60, 60, 64, 60, 64, 60].map((key) => {
      engine.strike(key);
      const level = levelAfter(engine);
      engine.letGo();
      engine.render(0.1);
      return Number(level.toFixed(2));
    });
    expect(heard).toEqual([0.1, 0.2, 0.1, 0.4, 0.2, 0.1]);
    expect(soundedBy(turns, 60, 100, 4).map((one) => one.zone.recordingId)).toEqual(['b']);
  });

  it('chokes, plays one-shots to their end, and what is cut out of a recording alone, backwards too', () => {
    const ramp = Float32Array.from({ length: RATE }, (_, i) => i / RATE);
    const sounds = { a: audio(still(0.1)), b: audio(ramp) };
    const choked = engineWith(
      [
        zone({ keys: { ...all, high: 60 }, choke: 1, oneShot: true }),
        zone({ keys: { ...all, low: 61 }, choke: 1, tracking: 0 }),
      ],
      sounds,
    );
    choked.strike(60);
    choked.letGo();
    expect(levelAfter(choked)).toBeCloseTo(0.1, 3);
    choked.strike(61);
    expect(levelAfter(choked)).toBeCloseTo(0.1, 3);

    const cut = { recordingId: 'b', start: 0.5, end: 0.75, attack: 0 };
    const forward = engineWith([zone(cut)], sounds);
    forward.strike(60);
    const once = forward.render(0.4).left;
    expect(once[1000]).toBeCloseTo(0.5 + 1000 / RATE, 2);
    expect(once.at(-1)).toBe(0);
    const backward = engineWith([zone({ ...cut, reverse: true })], sounds);
    backward.strike(60);
    expect(backward.render(0.1).left[1000]).toBeCloseTo(0.75 - 1000 / RATE, 2);
  });

  it('falls to its sustain level after its hold, and loops without a step or a swell', () => {
    const held = engineWith([zone({ hold: 0.05, decay: 0.1, sustain: -12, tracking: 0 })], {
      a: audio(still(0.4, RATE * 2)),
    });
    held.strike(60);
    expect(levelAfter(held, 0.05)).toBeCloseTo(0.4, 2);
    expect(levelAfter(held, 0.2)).toBeCloseTo(0.4 * 10 ** (-12 / 20), 3);

    // A loop that meets nothing but itself: 441.3 cycles a second do not fit 0.3 s.
    const looped = engineWith([zone({ loop: { start: 0.5, end: 0.8, crossfade: 0.1 } })], {
      a: audio(sine(441.3)),
    });
    looped.strike(60);
    const { left } = looped.render(2.4);
    let steepest = 0;
    for (let i = RATE / 2; i < left.length - 1; i++)
      steepest = Math.max(steepest, Math.abs(left[i + 1] - left[i]));
    expect(steepest).toBeLessThan(0.5 * ((2 * Math.PI * 441.3) / RATE) * 1.15);
    const level = (from: number) =>
      Math.sqrt(left.slice(from * RATE, (from + 0.3) * RATE).reduce((sum, x) => sum + x * x, 0));
    for (const from of [0.8, 1.1, 1.4, 1.7, 2])
      expect(20 * Math.log10(level(from) / level(0.5))).toBeCloseTo(0, 0);
    expect(ringsOn({ zones: [zone()] })).toBe(true);
    expect(ringsOn({ zones: [zone({ loop: { start: 0, end: 1, crossfade: 0 } })] })).toBe(false);
  });

  it.each([
    ['a fifth up', 1000, 67, -70],
    ['a fifth down', 1000, 53, -70],
    ['two octaves up', 9000, 84, -50],
  ])('%s: nothing is heard that is not in it', (_what, frequency, key, most) => {
    const engine = engineWith([zone({ attack: 0 })], { a: audio(sine(frequency, 4)) });
    engine.strike(key, 127);
    const { left } = engine.render(0.8);
    const { magnitudes, binWidth } = spectrumAt(left, 4096, 16_384, RATE);
    const meant = (frequency * 2 ** ((key - 60) / 12)) / binWidth;
    const isAudible = meant < RATE / 2 / binWidth;
    const whole = spectrumAt(sine(1000), 4096, 16_384, RATE).magnitudes.reduce(
      (a, b) => Math.max(a, b),
      0,
    );
    const highest = magnitudes.reduce(
      (worst, size, bin) =>
        isAudible && Math.abs(bin - meant) < 8 ? worst : Math.max(worst, size),
      0,
    );
    expect(20 * Math.log10(highest / whole)).toBeLessThan(most);
  });

  it('keeps recordings once, 16-bit ones in half the room', () => {
    const keys = { ...all, high: 62 };
    const [thin, wide] = [audio(still(0.5), 16), audio(still(0.5), 24)];
    const origin = {
      kind: 'recordings' as const,
      dynamics: 0,
      zones: [zone({ keys }), zone({ keys })],
    };
    expect(memoryOf(loadedSound(origin, () => thin))).toBe(RATE * 2);
    expect(memoryOf(loadedSound(origin, () => wide))).toBe(RATE * 4);
    expect(loadedSound(origin, () => undefined).zones).toEqual([]);
  });
});

describe('zones that are moved', () => {
  it('go together as far as all can, and roots with them only where no key moves the pitch', () => {
    const keys = { ...all, low: 50, high: 60 };
    const [one, drum] = [
      zone({ keys, root: 55 }),
      zone({ keys: { ...keys, high: 120 }, tracking: 0, root: 55 }),
    ];
    const moved = moveZones([one, drum], 'whole', { keys: 20, velocities: 3 });
    expect(moved[one.id]).toMatchObject({ keys: { low: 57, high: 67 }, velocities: { low: 1 } });
    expect([moved[one.id].root, moved[drum.id].root]).toEqual([undefined, 62]);
    const edge = moveZones([one], { keys: 'high', velocities: 'low' }, { keys: 4, velocities: 30 });
    expect(edge[one.id]).toMatchObject({ keys: { high: 64 }, velocities: { low: 31 } });
    expect(moveZones([one], 'root', { keys: -100, velocities: 0 })[one.id]).toEqual({ root: 0 });
  });
});
