import { describe, expect, it } from 'vitest';
import { HOUSE_SOUNDS, recipeOf } from './house-sounds.js';
import { frequencyOf, loopLength } from './partials.js';
import {
  isKit,
  planText,
  planZones,
  renderZone,
  type KitRecipe,
  type SoundRecipe,
  type ToneRecipe,
} from './recipe.js';
import { zoneFor, type RenderedZone as Zone, type Samples } from './zone.js';

const TONES = HOUSE_SOUNDS.filter((recipe): recipe is ToneRecipe => !isKit(recipe));
const KITS = HOUSE_SOUNDS.filter((recipe): recipe is KitRecipe => isKit(recipe));

function middleZone(recipe: SoundRecipe): Zone {
  const plans = planZones(recipe);
  return renderZone(plans[Math.floor(plans.length / 2)]);
}

/** Strength of one frequency in a stretch of sound (Goertzel, Hann window). */
function strengthAt(samples: Float32Array, frequency: number, sampleRate: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < samples.length; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / samples.length);
    const angle = (2 * Math.PI * frequency * i) / sampleRate;
    re += samples[i] * window * Math.cos(angle);
    im += samples[i] * window * Math.sin(angle);
  }
  return (2 * Math.hypot(re, im)) / samples.length;
}

describe.each(TONES.map((recipe) => [recipe.name, recipe] as const))('%s', (_name, recipe) => {
  const zone = middleZone(recipe);

  it('answers every key at every velocity with exactly one zone', () => {
    const plans = planZones(recipe);
    for (let key = 0; key <= 127; key++)
      for (const velocity of [1, 58, 59, 84, 85, 127])
        expect(
          plans.filter(
            (p) =>
              p.keys.low <= key &&
              key <= p.keys.high &&
              p.velocities.low <= velocity &&
              velocity <= p.velocities.high,
          ),
        ).toHaveLength(1);
  });

  it('is in tune within four cents', () => {
    const expected = frequencyOf(zone.rootKey);
    const loop = zone.left.subarray(zone.loopStart, zone.loopEnd);
    // Ensembles are spread on purpose; their middle, weighted by power, has to be right.
    let power = 0;
    let weighted = 0;
    for (let cents = -30; cents <= 30; cents++) {
      const here = strengthAt(loop, expected * 2 ** (cents / 1200), zone.sampleRate) ** 2;
      power += here;
      weighted += here * cents;
    }
    expect(Math.abs(weighted / power)).toBeLessThanOrEqual(4);
    expect(Math.sqrt(power)).toBeGreaterThan(0.001);
  });

  it('loops without a seam', () => {
    const { left, loopStart, loopEnd } = zone;
    const bend = (a: number, b: number, c: number) => Math.abs(a - 2 * b + c);
    let usual = 0;
    for (let i = loopStart + 1; i < loopEnd - 1; i++)
      usual = Math.max(usual, bend(left[i - 1], left[i], left[i + 1]));
    expect(bend(left[loopEnd - 2], left[loopEnd - 1], left[loopStart])).toBeLessThan(usual * 1.1);
    expect(bend(left[loopEnd - 1], left[loopStart], left[loopStart + 1])).toBeLessThan(usual * 1.1);
  });

  it('begins at rest, neither clips nor whispers, and holds no broken sample', () => {
    let peak = 0;
    for (const sample of zone.left) {
      if (!Number.isFinite(sample)) throw new Error('a sample is not a number');
      peak = Math.max(peak, Math.abs(sample));
    }
    expect(Math.abs(zone.left[0])).toBeLessThan(0.02);
    expect(peak).toBeLessThanOrEqual(0.701);
    expect(peak).toBeGreaterThan(0.05);
  });
});

describe.each(KITS.map((kit) => [kit.name, kit] as const))('%s', (_name, kit) => {
  const zones = planZones(kit).map(renderZone);

  it('has a piece of its own for every key it was made for, and answers the rest', () => {
    expect(new Set(kit.pieces.map((piece) => piece.key)).size).toBe(kit.pieces.length);
    for (const { key } of kit.pieces) expect(zoneFor(zones, key, 100)?.rootKey).toBe(key);
    for (const key of [0, 40, 61, 127]) expect(zoneFor(zones, key, 50)).not.toBeNull();
  });

  it('plays every piece once, from rest to rest, strongly at once and without clipping', () => {
    for (const { left, loopEnd, sampleRate } of zones) {
      const peakOf = (part: Float32Array) =>
        part.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
      expect(loopEnd).toBe(-1);
      expect(Math.abs(left[0])).toBeLessThan(0.02);
      expect(Math.abs(left[left.length - 1])).toBeLessThan(1e-4);
      expect(peakOf(left)).toBeLessThanOrEqual(0.701);
      expect(peakOf(left.subarray(0, 0.09 * sampleRate))).toBeGreaterThan(0.15);
    }
  });

  it('has brighter strokes when struck hard', () => {
    const roughness = (samples: Samples) => {
      let steps = 0;
      let size = 0;
      for (let i = 1; i < samples.length; i++) {
        steps += Math.abs(samples[i] - samples[i - 1]);
        size += Math.abs(samples[i]);
      }
      return steps / size;
    };
    for (const { key } of kit.pieces) {
      const [soft, hard] = [20, 120].map((v) => zoneFor(zones, key, v)?.left ?? new Float32Array());
      expect(roughness(hard), `key ${key}`).toBeGreaterThanOrEqual(roughness(soft) * 0.98);
    }
  });
});

describe('house sounds', () => {
  it('are at least six, and clearly different in colour', () => {
    expect(TONES.length).toBeGreaterThanOrEqual(6);
    const colours = TONES.map((recipe) => {
      const plan = planZones(recipe).find((p) => p.keys.low <= 60 && 60 <= p.keys.high);
      const zone = plan && renderZone(plan);
      if (!zone) throw new Error(`${recipe.name} has no zone at middle C`);
      const early = zone.left.subarray(400, 400 + 8192);
      const late = zone.left.subarray(zone.left.length - 8192);
      const root = frequencyOf(zone.rootKey);
      const bands = [early, late].flatMap((part) =>
        [1, 2, 2.76, 3, 4, 5, 6.27].map((ratio) => strengthAt(part, root * ratio, zone.sampleRate)),
      );
      const size = Math.hypot(...bands);
      // How a note begins, dies away and ends tells sounds apart as much as its colour does.
      const { attack, release } = recipe.voicing;
      const ringing = Math.min(4, recipe.ringing(60));
      return [
        ...bands.map((band) => band / size),
        Math.log10(attack) / 4,
        Math.log10(release) / 2,
        ringing / 8,
      ];
    });
    for (let a = 0; a < colours.length; a++)
      for (let b = a + 1; b < colours.length; b++) {
        const distance = Math.hypot(...colours[a].map((value, i) => value - colours[b][i]));
        expect(distance, `${TONES[a].name} and ${TONES[b].name}`).toBeGreaterThan(0.1);
      }
  });

  it('come out the same every time, and their plans tell them apart', () => {
    const texts = HOUSE_SOUNDS.map((recipe) => planText(planZones(recipe)));
    expect(new Set(texts).size).toBe(HOUSE_SOUNDS.length);
    expect(planText(planZones(HOUSE_SOUNDS[4]))).toBe(texts[4]);
    expect(middleZone(HOUSE_SOUNDS[4]).left).toEqual(middleZone(HOUSE_SOUNDS[4]).left);
    expect(recipeOf('felt-piano')?.name).toBe('Felt piano');
    expect(recipeOf('nothing')).toBeUndefined();
  });

  it('chooses loop lengths that keep the pitch', () => {
    for (let key = 21; key <= 108; key++) {
      const frequency = frequencyOf(key);
      const samples = loopLength(frequency, 44100, 1);
      const cycles = Math.round((frequency * samples) / 44100);
      const cents = 1200 * Math.log2((cycles * 44100) / samples / frequency);
      expect(Math.abs(cents)).toBeLessThan(0.03);
    }
  });

  it('finds the nearest zone when none fits', () => {
    const zone = (rootKey: number, low: number, high: number) =>
      ({ rootKey, keys: { low: rootKey, high: rootKey + 2 }, velocities: { low, high } }) as Zone;
    const zones = [zone(40, 1, 64), zone(40, 65, 127), zone(60, 1, 127)];
    expect(zoneFor(zones, 41, 70)).toBe(zones[1]);
    expect(zoneFor(zones, 55, 70)).toBe(zones[2]);
    expect(zoneFor([], 55, 70)).toBeNull();
  });
});
