import { describe, expect, it } from 'vitest';
import { PLAIN_TIMBRE } from '../model/patch/timbre.js';
import { compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { sineSound } from '../testing/sine-sound.js';
import { momentaryMaximum, powerOf } from './bs1770.js';
import { measureMixture, powerOfMixture, probesOf, voicesOf, type MixedVoice } from './mixture.js';
import type { PlayedKey } from './plumb-line.js';
import { measureNote } from './response.js';
import { gainFromDb } from '../units/decibels.js';

const colour = { timbre: PLAIN_TIMBRE, tone: { low: 0, high: 0 } };
const sound = sineSound();
const played = (low: number, high: number): PlayedKey[] =>
  Array.from({ length: high - low + 1 }, (_, i) => ({ device: 0, channel: 1, key: low + i }));
const voice = (changes: Partial<MixedVoice> = {}): MixedVoice => ({
  ...{ layerId: 'a', sound, note: 69, velocity: 127, gain: 1, pan: 0, colour },
  ...changes,
});
const alone = (changes: Partial<MixedVoice>) =>
  10 * Math.log10(powerOfMixture(measureMixture([voice(changes)], 1), () => 1));

describe('the strokes that a patch is measured by', () => {
  it('are of the sets of layers that sound in most places, three at most', () => {
    const patch = compiled([
      layer('low', { keys: keys(40, 59) }),
      layer('high', { keys: keys(60, 69) }),
      layer('hard', { keys: keys(60, 64), velocities: velocities(100, 127) }),
      layer('top', { keys: keys(70, 71) }),
    ]);
    const probes = probesOf(patch, played(36, 80));
    expect(probes.map(({ layers, weight }) => [layers.map(({ id }) => id), weight])).toEqual([
      [['low'], 20 * 3],
      [['high'], 10 * 3 - 5],
      [['top'], 2 * 3],
    ]);
    // The stroke is one from the middle of them.
    expect(probes[0]).toMatchObject({ key: 50, velocity: 48, device: 0, channel: 1 });
  });

  it('leave out what is silent', () => {
    const muted = compiled([layer('off', { muted: true })]);
    expect(probesOf(muted, played(60, 61))).toEqual([]);
  });
});

describe('the voices of a stroke', () => {
  const patch = compiled([
    layer('a', { transpose: 12, pan: -0.5, keys: keys(60, 80, 4) }),
    layer('b', { keys: keys(60, 80) }),
  ]);
  const at = (key: number) => {
    const [first] = probesOf(patch, [{ device: 0, channel: 1, key }]);
    return first;
  };

  it('sound the note, strength, gain and place of their layers', () => {
    const probe = at(61);
    const [a, b] = voicesOf(probe, () => ({ sound, colour }));
    expect(a).toMatchObject({ layerId: 'a', note: 73, pan: -0.5 });
    expect(a.velocity).toBe(patch.layers[0].touch[probe.velocity]);
    expect(a.gain).toBeCloseTo(patch.layers[0].keyGain[61], 9);
    expect(a.gain).toBeLessThan(b.gain);
    expect(b).toMatchObject({ layerId: 'b', note: 61, gain: 1 });
  });

  it('leave out sounds that are not there and notes that MIDI has not', () => {
    const probe = at(70);
    const only = voicesOf(probe, ({ id }) => (id === 'a' ? { sound, colour } : null));
    expect(only.map(({ layerId }) => layerId)).toEqual(['a']);
    const ends = (key: number) =>
      voicesOf({ ...probe, key }, () => ({ sound, colour })).map(({ note }) => note);
    expect(ends(115)).toEqual([127, 115]);
    expect(ends(116)).toEqual([116]);
    expect(ends(-12)).toEqual([0]);
    expect(ends(0)).toEqual([12, 0]);
  });
});

describe('a mixture', () => {
  it('of one voice is as loud as the note is measured alone', () => {
    const measured = powerOf(measureNote(sound, 69, 127));
    const mixture = measureMixture([voice()], 7);
    expect(mixture).toMatchObject({ layerIds: ['a'], weight: 7 });
    expect(10 * Math.log10(powerOfMixture(mixture, () => 1) / measured)).toBeCloseTo(0, 1);
  });

  it('counts gain, place and colour of its voices', () => {
    const plain = alone({});
    expect(alone({ gain: 0.5 }) - plain).toBeCloseTo(-6.02, 1);
    // Constant power: a note at the side is as loud as in the middle, on one channel.
    expect(Math.abs(alone({ pan: 1 }) - plain)).toBeLessThan(3.1);
    const left = voice({ pan: -1 });
    const right = voice({ pan: 1, layerId: 'b' });
    const both = measureMixture([left, right], 1);
    const one = powerOfMixture(both, (id) => (id === 'a' ? 1 : 0));
    const other = powerOfMixture(both, (id) => (id === 'b' ? 1 : 0));
    expect(other).toBeCloseTo(one, 6);
    // On two sides they have nothing in common: powers add up.
    expect(powerOfMixture(both, () => 1) / (one + other)).toBeCloseTo(1, 3);
    const toned = (low: number, high: number) =>
      alone({ colour: { ...colour, tone: { low, high } } });
    expect(toned(-12, 0)).toBeLessThan(plain - 0.5);
    expect(toned(12, 0)).toBeGreaterThan(plain + 0.5);
    expect(Math.abs(toned(0, 12) - plain)).toBeLessThan(0.3);
  });

  it('is rendered with the timbre of its voices', () => {
    const timbre = (changes: Partial<typeof PLAIN_TIMBRE>) => ({
      ...colour,
      timbre: { ...PLAIN_TIMBRE, ...changes },
    });
    const high = (c: typeof colour) => alone({ note: 105, colour: c });
    expect(high(timbre({ brightness: -1 }))).toBeLessThan(high(colour) - 1);
    const soft = voice({ sound: sineSound({ attack: 0.1 }) });
    const first = (one: MixedVoice) => measureMixture([one], 1).windows[0][0];
    expect(first({ ...soft, colour: timbre({ attack: 1 }) })).toBeLessThan(first(soft) / 2);
  });

  it('adds up as its voices do when they are rendered together', () => {
    const voices = [
      voice({ note: 69 }),
      voice({ layerId: 'b', note: 69, sound: sineSound({ phase: 0.3 }), gain: 0.7 }),
      voice({ layerId: 'c', note: 76, gain: 0.5 }),
    ];
    const mixture = measureMixture(voices, 1);
    const gains: Record<string, number> = { a: 1, b: gainFromDb(-3), c: gainFromDb(2) };
    const sum = new Float32Array(2 * 48_000);
    for (const { layerId, note, gain, sound: played } of voices) {
      const { left } = played.zones[0];
      for (let i = 0; i < sum.length; i++) {
        const position = (i * 2 ** ((note - 69) / 12)) % left.length;
        const at = Math.floor(position);
        const next = left[(at + 1) % left.length];
        sum[i] += gain * gains[layerId] * (left[at] + (next - left[at]) * (position - at));
      }
    }
    const together = momentaryMaximum({ left: sum, right: sum, sampleRate: 48_000 });
    const mixed = 10 * Math.log10(powerOfMixture(mixture, (id) => gains[id]));
    const reference = 10 * Math.log10(powerOfMixture(measureMixture([voice()], 1), () => 1));
    const alone = Float32Array.from(sound.zones[0].left);
    const single = momentaryMaximum({ left: alone, right: alone, sampleRate: 48_000 });
    expect(mixed - reference).toBeCloseTo(together - single, 1);
  });

  it('has a window for every 50 ms of its two seconds', () => {
    const { windows } = measureMixture([voice()], 1);
    expect(windows).toHaveLength(2 * 20 - 8 + 1);
    const full = windows.map(([power]) => power);
    expect(full[20] / full[30]).toBeCloseTo(1, 2);
    expect(powerOfMixture({ layerIds: [], weight: 1, windows: [] }, () => 1)).toBe(0);
  });
});
