import { describe, expect, it } from 'vitest';
import { chance, tone, type Tone } from '../testing/tones.js';
import { listenTo } from './listen-to.js';

const RATE = 48_000;

/** Sound between two silences. */
function between(before: number, samples: Float32Array, after = 0.1): Float32Array {
  const whole = new Float32Array(Math.round((before + after) * RATE) + samples.length);
  whole.set(samples, Math.round(before * RATE));
  return whole;
}

describe('the pitch of a recording', () => {
  const next = chance(5);
  const one = (list: readonly number[]) => list[Math.floor(next() * list.length)];
  const tones: Tone[] = Array.from({ length: 44 }, (_, i) => ({
    ...{ key: 21 + Math.round((i * 87) / 43), cents: Math.round(next() * 90 - 45), chance: next },
    ...{ sampleRate: one([44_100, 48_000]), seconds: one([0.6, 1.2]), tilt: 0.4 + next() * 1.4 },
    ...{ partials: 3 + Math.floor(next() * 25), isMissing: next() < 0.3, vibrato: one([0, 0, 12]) },
    ...{ stretch: one([0, 1e-4, 6e-4]), noise: one([-40, -60]), decay: one([0, 1, 3]) },
  }));

  it('is within five cents for all but one of a hundred, from A0 to C8', () => {
    const off = tones.filter((made) => {
      const { pitch } = listenTo([tone(made)], made.sampleRate ?? RATE);
      const heard = pitch ? pitch.key * 100 + pitch.cents : 0;
      return Math.abs(heard - made.key * 100 - (made.cents ?? 0)) > 5;
    });
    expect(off.length, JSON.stringify(off)).toBeLessThanOrEqual(1);
  });

  it('is none for noise, clicks and clusters', () => {
    const cluster = (count: number) => {
      const sum = new Float32Array(RATE);
      for (let k = 0; k < count; k++) {
        const turned = (2 * Math.PI * 300 * 40 ** next()) / RATE;
        const phase = next() * 6;
        for (let i = 0; i < RATE; i++) sum[i] += (Math.sin(turned * i + phase) * 0.5) / count;
      }
      return sum;
    };
    const noise = Float32Array.from({ length: RATE }, () => next() - 0.5);
    const struck = noise.map((sample, i) => sample * Math.exp(-i / 5000));
    const click = Float32Array.from({ length: RATE / 2 }, (_, i) => (i < 40 ? next() - 0.5 : 0));
    for (const samples of [noise, struck, click, cluster(16), cluster(30), cluster(60)])
      expect(listenTo([samples], RATE).pitch).toBeNull();
  });
});

describe('where a recording sounds', () => {
  it('begins and ends within some milliseconds of where it does, in a background too', () => {
    const next = chance(9);
    for (const noise of [0, 1e-4]) {
      const samples = between(0.2, tone({ key: 60, seconds: 0.7 }), 0.3);
      for (let i = 0; i < samples.length; i++) samples[i] += noise * (next() - 0.5);
      const { start, end } = listenTo([samples], RATE);
      expect(start).toBeGreaterThan(0.19);
      expect(start).toBeLessThanOrEqual(0.202);
      expect(end).toBeGreaterThan(0.899);
      expect(end).toBeLessThan(0.95);
    }
  });

  it('is all of it, and silent, where there is nothing', () => {
    const heard = listenTo([new Float32Array(4800)], RATE);
    expect(heard).toMatchObject({ pitch: null, loop: null, start: 0, end: 0.1, peak: 0 });
    expect(heard.lufs).toBe(-Infinity);
    expect(() => listenTo([], RATE)).toThrow(RangeError);
    expect(() => listenTo([new Float32Array(4)], 0)).toThrow(RangeError);
  });

  it('is as loud as the recommendation says, a mono recording as one channel', () => {
    const sine = Float32Array.from({ length: RATE }, (_, i) =>
      Math.sin((2 * Math.PI * 997 * i) / RATE),
    );
    expect(listenTo([sine], RATE).lufs).toBeCloseTo(-3.01, 1);
    expect(listenTo([sine, sine], RATE)).toMatchObject({ isMono: true });
    expect(listenTo([sine, sine], RATE).lufs).toBeCloseTo(0, 1);
  });
});

describe('a loop', () => {
  it.each<[string, Tone]>([
    ['a steady note', { key: 48, cents: 13, partials: 20 }],
    ['a low one', { key: 24, partials: 20 }],
    ['a note that dies away slowly', { key: 60, decay: 0.4 }],
    ['a high one', { key: 100, partials: 3 }],
  ])('is found in %s: no step at its seam, and level within 1 dB', (_what, made) => {
    const samples = tone({ ...made, seconds: 3 });
    const { loop } = listenTo([samples], RATE);
    if (!loop) throw new Error('there is none');
    const [start, end] = [loop.start * RATE, loop.end * RATE].map(Math.round);
    expect(end - start).toBeGreaterThan(0.08 * RATE);
    const level = (at: number) =>
      Math.sqrt(samples.slice(at, at + 4800).reduce((sum, x) => sum + x * x, 0) / 4800);
    expect(Math.abs(20 * Math.log10(level(end - 2400) / level(start - 2400)))).toBeLessThan(1);
    if (made.decay) return;
    // What is jumped to is what would have come.
    expect(Math.abs(samples[end] - samples[start])).toBeLessThan(level(start) * 0.002);
  });

  it('is none where a note dies away at once, or has no period', () => {
    expect(listenTo([tone({ key: 60, decay: 5, seconds: 2 })], RATE).loop).toBeNull();
    const next = chance(3);
    const noise = Float32Array.from({ length: RATE }, () => next() - 0.5);
    expect(listenTo([noise], RATE).loop).toBeNull();
  });
});
