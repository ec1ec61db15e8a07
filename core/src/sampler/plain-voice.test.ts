import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Samples, Voicing, Zone } from '../synthesis/zone.js';
import { EngineAtWork, RATE } from '../testing/engine-at-work.js';
import { BLOCK } from './block.js';
import { COMMAND } from './command-ring.js';
import { hermite } from './interpolation.js';

const BLOCKS = 24;
const FRAMES = BLOCKS * BLOCK;

interface Stroke {
  note: number;
  velocity: number;
  gain: number;
  at: number;
  /** The frame in which it is let go, and that in which all is silenced; −1 for never. */
  letGo: number;
  silenced: number;
}

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** Slow waves, so that what interpolation leaves is far below what is looked for. */
const wave = (length: number, pace: number) =>
  Float32Array.from({ length }, (_, i) => 0.6 * Math.sin(i / pace) + 0.1);

const anyZone = fc
  .record({
    length: fc.integer({ min: 40, max: 1500 }),
    loops: fc.boolean(),
    loopShare: between(0, 0.9),
    isStereo: fc.boolean(),
    sampleRate: fc.constantFrom(22_050, 44_100, 48_000, 96_000),
    rootKey: fc.integer({ min: 40, max: 80 }),
    loopDecay: fc.constantFrom(0, 20, 90),
    pace: between(8, 40),
    isWhole: fc.boolean(),
    scale: fc.option(fc.tuple(between(0.2, 1), between(0.2, 1))),
    moved: fc.option(fc.record({ tracking: between(-50, 150), tuning: between(-90, 90) })),
  })
  .map(({ length, loops, loopShare, isStereo, pace, isWhole, scale, moved, ...rest }): Zone => {
    const recorded = (slowness: number): Samples =>
      isWhole
        ? Int16Array.from(wave(length + 4, slowness), (sample) => sample * 32_768)
        : wave(length + 4, slowness);
    const left = recorded(pace);
    const unit = isWhole ? 1 / 32_768 : 1;
    return {
      ...rest,
      ...(moved ?? {}),
      ...(scale ? { scale: Float64Array.from(scale, (factor) => factor * unit) } : {}),
      keys: { low: 0, high: 127 },
      velocities: { low: 1, high: 127 },
      left,
      right: isStereo ? recorded(pace * 1.7) : left,
      loopStart: loops ? Math.floor(loopShare * length) : -1,
      loopEnd: loops ? length : -1,
    };
  });
const anyVoicing: fc.Arbitrary<Voicing> = fc.record({
  // So many frames that none is one more or less by rounding.
  attack: fc.constantFrom(0, 32 / RATE, 512 / RATE, 4096 / RATE),
  release: fc.constantFrom(0.001, 0.02, 0.4),
  dynamics: fc.constantFrom(0, 20, 80),
  brightness: between(200, 20_000),
  darkening: between(0, 4),
  hold: fc.constantFrom(0, 0.003, 0.02),
  decay: fc.constantFrom(0, 0.01, 0.05),
  sustain: fc.constantFrom(0, 0, -6, -30, -60),
});
const anyStroke: fc.Arbitrary<Stroke> = fc.record({
  note: fc.integer({ min: 30, max: 90 }),
  velocity: fc.integer({ min: 1, max: 127 }),
  gain: between(0.1, 1),
  at: fc.integer({ min: 0, max: 400 }),
  letGo: fc.oneof(fc.constant(-1), fc.integer({ min: 300, max: 2000 })),
  silenced: fc.oneof(fc.constant(-1), fc.constant(-1), fc.integer({ min: 400, max: 2500 })),
});

/** One channel of a voice, frame by frame as it is meant: no blocks, no runs, no WebAssembly. */
function plainly(side: 0 | 1, zone: Zone, voicing: Voicing, stroke: Stroke): number[] {
  const recorded = side === 0 ? zone.left : zone.right;
  const unit = zone.scale?.[side] ?? (recorded instanceof Int16Array ? 1 / 32_768 : 1);
  const samples = Array.from(recorded, (sample) => sample * unit);
  const out = new Array<number>(FRAMES).fill(0);
  const softer = stroke.velocity / 127 - 1;
  const step =
    (zone.sampleRate / RATE) *
    2 ** (((stroke.note - zone.rootKey) * (zone.tracking ?? 100) + (zone.tuning ?? 0)) / 1200);
  const cutoff = voicing.brightness * 2 ** (softer * voicing.darkening);
  const smoothing = 1 - Math.exp((-2 * Math.PI * cutoff) / RATE);
  const loops = zone.loopEnd > 0;
  const end = loops ? zone.loopEnd : samples.length;
  const before = loops && zone.loopStart === 0 ? end - 1 : 0;
  const within = (at: number) => {
    if (at < end) return at;
    return loops ? at - (end - zone.loopStart) : end - 1;
  };
  let strength = stroke.gain * 10 ** (Math.max(-59, softer * voicing.dynamics) / 20);
  let position = 0;
  let envelope = 0;
  let hasRisen = false;
  let held = Math.round((voicing.hold ?? 0) * RATE);
  let cutFrom = 0;
  let [first, second] = [0, 0];
  for (let i = stroke.at; i < FRAMES; i++) {
    const isCut = stroke.silenced >= 0 && i >= stroke.silenced;
    if (i === stroke.silenced) cutFrom = envelope;
    if (isCut) {
      const share = Math.min(1, (i - stroke.silenced + 1) / (0.012 * RATE));
      envelope = cutFrom * (0.5 + 0.5 * Math.cos(Math.PI * share));
    } else if (stroke.letGo >= stroke.at && i >= stroke.letGo)
      envelope *= 10 ** (-3 / Math.max(1, voicing.release * RATE));
    else if (!hasRisen) {
      envelope = Math.min(1, envelope + 1 / Math.max(1, voicing.attack * RATE));
      hasRisen = envelope === 1;
    } else if (voicing.sustain && held > 0) held--;
    else if (voicing.sustain) {
      const fall = 10 ** (voicing.sustain / 20 / Math.max(1, (voicing.decay ?? 0) * RATE));
      const floor = voicing.sustain <= -60 ? 0 : 10 ** (voicing.sustain / 20);
      envelope = Math.max(floor, envelope * fall);
    }
    const at = Math.floor(position);
    const heard = hermite(
      ...([samples[at > 0 ? at - 1 : before], samples[at]] as const),
      ...([samples[within(at + 1)], samples[within(at + 2)], position - at] as const),
    );
    first += smoothing * (heard - first);
    second += smoothing * (first - second);
    out[i] = second * envelope * strength;
    if (loops && position >= zone.loopStart) strength *= 10 ** (-zone.loopDecay / 20 / RATE);
    position += step;
    if (loops) while (position >= end) position -= end - zone.loopStart;
    // Whether one that ends just there has another frame is a matter of rounding.
    else if (Math.abs(position - (end - 1)) < 1e-6) return out.fill(NaN, i + 1, i + 2);
    else if (position >= end - 1) break;
  }
  return out;
}

describe('one voice of the engine', () => {
  it('is what a plain reading of its zone, envelope and low-passes gives, whatever the sound', () => {
    fc.assert(
      fc.property(anyZone, anyVoicing, anyStroke, (zone, voicing, stroke) => {
        const work = new EngineAtWork(voicing);
        work.load(0, zone);
        const { at, letGo, silenced, ...struck } = stroke;
        work.start(1, struck, { frame: at });
        // What is silenced calls off all that is to come.
        if (letGo >= at && (silenced < 0 || letGo < silenced)) work.end(1, letGo);
        if (silenced >= 0) work.ring.write(COMMAND.silence, silenced);
        const meant = ([0, 1] as const).map((side) => plainly(side, zone, voicing, stroke));
        const { left, right } = work.output.mix;
        let furthest = 0;
        for (let from = 0; from < FRAMES; from += BLOCK) {
          work.after();
          for (let i = 0; i < BLOCK; i++) {
            const apart = (side: number, heard: number) => {
              const expected = meant[side][from + i];
              return Number.isNaN(expected) ? 0 : Math.abs(heard - expected);
            };
            furthest = Math.max(furthest, apart(0, left[i]), apart(1, right[i]));
          }
        }
        // A fade of what is cut goes in short straight lines.
        expect(furthest).toBeLessThan(6e-4);
      }),
      { numRuns: 150 },
    );
  });
});
