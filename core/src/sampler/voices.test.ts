import { beforeEach, describe, expect, it } from 'vitest';
import type { Zone } from '../synthesis/zone.js';
import { RATE, still } from '../testing/engine-at-work.js';
import { BLOCK } from './block.js';
import { InnerLoop } from './inner-loop.js';
import { newVoiceStart, type VoiceStart } from './voice-start.js';
import { MOST_VOICES, VOICES, Voices } from './voices.js';

const CUT_BLOCKS = Math.ceil((0.012 * RATE) / BLOCK);
const low = still(0.5);

let loop: InnerLoop;
let voices: Voices;
beforeEach(() => {
  loop = new InnerLoop(VOICES);
  voices = new Voices(RATE, loop);
});
const start = (v: number, changes: Partial<VoiceStart> = {}) =>
  voices.start(v, {
    ...newVoiceStart(),
    ...{ id: v + 1000, strip: 1, instance: 2, slot: 3, velocity: 90, zone: low, step: 1 },
    ...{ glideSeconds: 0.5, gain: 1, attackFrames: 0, releaseFrames: 4800, loopFall: 1 },
    ...{ holdFrames: 0, decayFall: 1, sustain: 1 },
    ...{ cutoff: 20_000, ...changes },
  });
/** Renders a block of one voice and gives what it made. */
function render(v: number): Float32Array {
  loop.mix.both.fill(0);
  voices.render(v, 0, BLOCK);
  return loop.mix.both.slice();
}
/** Starts a voice in the place that is found for it. */
const strike = () => {
  const v = voices.place();
  start(v);
  return { v, stolen: voices.stolen };
};

describe('places for voices', () => {
  it('are free ones while fewer play than can', () => {
    const taken = new Set<number>();
    for (let i = 0; i < MOST_VOICES; i++) {
      const { v, stolen } = strike();
      expect(stolen).toBe(-1);
      expect(taken.has(v)).toBe(false);
      taken.add(v);
    }
    expect(voices.freePlace()).toBeGreaterThanOrEqual(0);
    expect(taken.has(voices.freePlace())).toBe(false);
  });

  it('are won from the oldest, but first of all from the oldest that is let go', () => {
    const struck = Array.from({ length: MOST_VOICES }, () => strike().v);
    voices.release(struck[40]);
    voices.release(struck[20]);
    expect(strike().stolen).toBe(struck[20]);
    expect(strike().stolen).toBe(struck[40]);
    expect(strike().stolen).toBe(struck[0]);
    expect(voices.isHeld(struck[0])).toBe(false);
    expect(voices.isSounding(struck[0])).toBe(true);
  });

  it('are taken from the voice that has faded the longest when there are none', () => {
    const sound = () => {
      const struck = strike();
      voices.render(struck.v, 0, 1);
      return struck;
    };
    const taken: number[] = [];
    for (let i = 0; i < MOST_VOICES; i++) {
      taken.push(sound().v);
    }
    // One from within is the first to go.
    voices.release(taken[60]);
    const fading: number[] = [];
    while (voices.freePlace() >= 0) {
      fading.push(sound().stolen);
      // Those that fade already are a little further than the next one.
      for (const gone of fading) voices.render(gone, 0, 1);
    }
    expect(fading).toHaveLength(VOICES - MOST_VOICES);
    expect(fading[0]).toBe(taken[60]);
    expect(strike().v).toBe(fading[0]);
  });

  it('are free again after the fade of a cut, which is half a wave', () => {
    start(0);
    for (let i = 0; i < 8; i++) render(0);
    voices.cut(0);
    const faded: number[] = [];
    for (let i = 0; i <= CUT_BLOCKS; i++) faded.push(...render(0));
    for (const i of [0, 100, 287, 450, 570])
      expect(faded[i]).toBeCloseTo(
        0.25 * (1 + Math.cos(Math.PI * Math.min(1, (i + 1) / (0.012 * RATE)))),
        3,
      );
    expect(faded.slice(580).every((sample) => Math.abs(sample) < 1e-4)).toBe(true);
    expect(voices.isSounding(0)).toBe(false);
    // A voice that is over cannot be cut again.
    voices.cut(0);
    expect(voices.isSounding(0)).toBe(false);
  });

  it('are not cut twice: the fade goes on', () => {
    start(0);
    for (let i = 0; i < 8; i++) render(0);
    voices.cut(0);
    render(0);
    render(0);
    const before = render(0).at(-1) ?? 0;
    voices.cut(0);
    const [next] = render(0);
    expect(Math.abs(next - before)).toBeLessThan(0.002);
    expect(render(0).at(-1)).toBeLessThan(before / 2);
  });
});

describe('a voice', () => {
  it('is held until it is let go, and over when it has fallen by 90 dB', () => {
    start(4, { attackFrames: 1000, releaseFrames: 960 });
    expect([voices.isHeld(4), voices.isSounding(4), voices.zoneOf(4)]).toEqual([true, true, low]);
    // While it rises it goes on, however soft it is.
    start(5, { attackFrames: 1e9 });
    for (let i = 0; i < 20; i++) render(5);
    expect(voices.isSounding(5)).toBe(true);
    for (let i = 0; i < 10; i++) render(4);
    expect(voices.isHeld(4)).toBe(true);
    voices.release(4);
    expect([voices.isHeld(4), voices.isSounding(4)]).toEqual([false, true]);
    // 960 frames for 60 dB: 1440 for 90.
    for (let i = 0; i < 11; i++) render(4);
    expect(voices.isSounding(4)).toBe(true);
    render(4);
    expect(voices.isSounding(4)).toBe(false);
  });

  it('begins without what its place has played before', () => {
    start(2, { cutoff: 50 });
    for (let i = 0; i < 40; i++) render(2);
    voices.pressure[2] = 0.5;
    voices.slide(2, 9, { step: 1.5, glideSeconds: 1 });
    voices.free(2);
    expect(voices.isSounding(2)).toBe(false);
    start(2, { zone: still(0) });
    expect(voices.isGliding(2)).toBe(false);
    expect(voices.pressure[2]).toBe(0);
    expect(render(2).every((sample) => sample === 0)).toBe(true);
  });

  it('trembles at a place and a pace of its own', () => {
    const seen = new Set<number>();
    for (let v = 0; v < 12; v++) {
      start(v);
      expect(voices.vibratoPhase[v]).toBeGreaterThanOrEqual(0);
      expect(voices.vibratoPhase[v]).toBeLessThan(2 * Math.PI);
      expect(voices.vibratoRate[v]).toBeGreaterThanOrEqual(0.95);
      expect(voices.vibratoRate[v]).toBeLessThan(1.05);
      seen.add(Math.round(voices.vibratoPhase[v] * 1.9));
    }
    // Spread over the whole round.
    expect(seen.size).toBeGreaterThan(9);
    expect(voices.ageOf(11) - voices.ageOf(0)).toBe(11);
  });
});

describe('a voice that slides', () => {
  it('goes evenly in pitch, arrives in its time, and bears its new number', () => {
    start(0);
    voices.slide(0, 77, { step: 4, glideSeconds: (4 * BLOCK) / RATE });
    expect(voices.id[0]).toBe(77);
    const steps: number[] = [];
    for (let i = 0; i < 5; i++) {
      render(0);
      steps.push(voices.step[0]);
      if (i === 2) expect(voices.isGliding(0)).toBe(true);
    }
    [Math.SQRT2, 2, 2 * Math.SQRT2, 4, 4].forEach((step, i) =>
      expect(steps[i]).toBeCloseTo(step, 9),
    );
    expect(voices.isGliding(0)).toBe(false);
    // Parts of a block are parts of the way.
    voices.slide(0, 78, { step: 1, glideSeconds: (2 * BLOCK) / RATE });
    for (const [from, to] of [
      [0, 32],
      [32, BLOCK],
    ])
      voices.render(0, from, to);
    expect(voices.step[0]).toBeCloseTo(2, 9);
    // In no time at all it is there with the next frames.
    voices.slide(0, 78, { step: 1, glideSeconds: 0 });
    render(0);
    expect(voices.step[0]).toBe(1);
  });

  it('goes over into another recording at the same moment of it, while the old one fades out', () => {
    start(0, { gain: 0.8 });
    for (let i = 0; i < 10; i++) render(0);
    voices.pressure[0] = 0.25;
    voices.slide(0, 77, { step: 2, glideSeconds: 1 });
    const other = still(-0.5, { sampleRate: RATE / 2, loopStart: 100, loopEnd: 400 });
    const about = (v: number) => [
      ...[voices.id[v], voices.strip[v], voices.instance[v], voices.slot[v], voices.velocity[v]],
      ...[voices.glideSeconds[v], voices.vibratoPhase[v], voices.vibratoRate[v]],
      ...[voices.pressure[v], voices.ageOf(v), voices.isGliding(v)],
    ];
    const before = about(0);
    voices.cross(0, 9, other, 0.5);
    expect(about(9)).toEqual(before);
    expect([voices.zoneOf(9), voices.step[9]]).toEqual([other, 0.5 * voices.step[0]]);
    expect([voices.isHeld(0), voices.isSounding(0), voices.isHeld(9)]).toEqual([false, true, true]);
    // Their sum goes straight from one height to the other within 12 ms.
    const heard: number[] = [];
    for (let i = 0; i < 6; i++) {
      const [gone, come] = [render(0), render(9)];
      heard.push(...gone.map((sample, n) => sample + come[n]));
    }
    expect(heard[0]).toBeGreaterThan(0.35);
    expect(heard.at(-1)).toBeCloseTo(-0.4, 2);
    expect(voices.isSounding(0)).toBe(false);
    expect(voices.step[9]).toBeGreaterThan(0.5);
    voices.slide(9, 1, { step: 1, glideSeconds: 0 });
    render(9);
    expect(voices.step[9]).toBe(1);
    // It lets go as the one before would have.
    voices.release(9);
    for (let i = 0; i < 50; i++) render(9);
    expect(voices.isSounding(9)).toBe(true);
    for (let i = 0; i < 10; i++) render(9);
    expect(voices.isSounding(9)).toBe(false);
  });

  it('takes what its low-passes keep along', () => {
    start(3, { cutoff: 5 });
    for (let i = 0; i < 400; i++) render(3);
    expect(render(3).at(-1)).toBeCloseTo(0.5, 2);
    voices.cross(3, 7, low, 1);
    for (let i = 0; i < 5; i++) render(7);
    expect(render(7).at(-1)).toBeCloseTo(0.5, 2);
  });

  it('finds its place in a recording that is shorter, looped or not', () => {
    const ramp = (changes: Partial<Zone>) => {
      const left = Float32Array.from({ length: 600 }, (_, i) => i / 1000);
      return still(0, { left, right: left, ...changes });
    };
    const heardFrom = (into: Zone) => {
      start(0, { zone: still(0) });
      for (let i = 0; i < 10; i++) render(0);
      voices.cross(0, 1, into, 0.001);
      render(1);
      return render(1).at(-1) ?? 0;
    };
    const rise = (2 * BLOCK) / (0.012 * RATE);
    // 1280 frames in: 1280 − 500 is a loop and 280 beyond its start.
    const looped = heardFrom(ramp({ loopStart: 100, loopEnd: 600 }));
    expect(looped / rise).toBeCloseTo((100 + ((1280 - 100) % 500)) / 1000, 2);
    // Before a loop that is shorter than what lies before it there is nothing to go round.
    const before = heardFrom(ramp({ loopStart: 560, loopEnd: 600, sampleRate: RATE / 10 }));
    expect(before / rise).toBeCloseTo(0.128, 2);
    const once = heardFrom(ramp({ loopStart: -1, loopEnd: -1 }));
    expect(once / rise).toBeCloseTo(0.598, 2);
    const slower = heardFrom(ramp({ loopStart: -1, loopEnd: -1, sampleRate: RATE / 4 }));
    expect(slower / rise).toBeCloseTo(0.32, 2);
  });
});
