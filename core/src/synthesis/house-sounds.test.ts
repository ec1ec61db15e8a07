import { beforeAll, describe, expect, it } from 'vitest';
import { measureNote } from '../loudness/response.js';
import { houseSourceId, recipeIn } from '../model/library/source-id.js';
import { SOUND_CATEGORIES } from '../model/library/sound.js';
import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METER, METERS } from '../sampler/meters.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import type { LoadedSound } from '../sampler/zone-table.js';
import { HOUSE_SOUNDS } from './house-sounds.js';
import { isKit, planZones, renderZone, type SoundRecipe } from './recipe.js';
import { houseSources, sourceOf } from './source.js';

const RATE = 48_000;

/** The zones that three notes of a recipe need: low, middle, high. */
function loaded(recipe: SoundRecipe): { sound: LoadedSound; notes: number[] } {
  const { low, high } = recipe.natural;
  const notes = [low + 3, Math.round((low + high) / 2), high - 3];
  const plans = planZones(recipe).filter((plan) =>
    notes.some((note) => plan.keys.low <= note && note <= plan.keys.high),
  );
  return { sound: { voicing: recipe.voicing, zones: plans.map(renderZone) }, notes };
}

/** Plays one note for `held` seconds and listens until `until`. */
function play(sound: LoadedSound, note: number, velocity: number, held: number, until: number) {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const meters = new Float32Array(METERS);
  const engine = new VoiceEngine(RATE, ring, meters);
  engine.load(0, sound);
  ring.write(COMMAND.level, 0, 0, 0, 0);
  ring.write(COMMAND.start, 0, 1, 0, 0, 1, 0, note, velocity, 1);
  const output = blockOutput();
  const heard = new Float32Array(Math.ceil((until * RATE) / BLOCK) * BLOCK);
  for (let at = 0; at < heard.length; at += BLOCK) {
    if (at <= held * RATE && held * RATE < at + BLOCK) ring.write(COMMAND.end, 0, 1);
    engine.render(output);
    heard.set(output.mix.left, at);
  }
  return { heard, voices: meters[METER.voices] };
}

const steepest = (samples: Float32Array, from: number, to: number) => {
  let most = 0;
  for (let i = Math.round(from * RATE) + 1; i < to * RATE; i++)
    most = Math.max(most, Math.abs(samples[i] - samples[i - 1]));
  return most;
};

describe('the shelf of house sounds', () => {
  it('is played as it is made: the same sounds, and those ring on whose recordings die away', () => {
    expect(houseSources().map(({ id }) => recipeIn(id))).toEqual(HOUSE_SOUNDS.map(({ id }) => id));
    for (const recipe of HOUSE_SOUNDS)
      expect(sourceOf(houseSourceId(recipe.id))?.ringsOn, recipe.name).toBe(
        isKit(recipe) || Number.isFinite(recipe.ringing(60)),
      );
  });

  it('holds at least two of everything that is played on keys, each by its own id and name', () => {
    for (const category of SOUND_CATEGORIES.slice(0, 9)) {
      const here = HOUSE_SOUNDS.filter((recipe) => recipe.category === category);
      expect(here.length, category).toBeGreaterThanOrEqual(2);
    }
    expect(new Set(HOUSE_SOUNDS.map((r) => r.id)).size).toBe(HOUSE_SOUNDS.length);
    expect(new Set(HOUSE_SOUNDS.map((r) => r.name)).size).toBe(HOUSE_SOUNDS.length);
  });

  it('spans four octaves or more with every sound, and three with those that are small in life', () => {
    for (const { name, natural } of HOUSE_SOUNDS)
      expect(natural.high - natural.low, name).toBeGreaterThanOrEqual(36);
  });
});

describe.each(HOUSE_SOUNDS.map((recipe) => [recipe.name, recipe] as const))(
  '%s, played',
  (_name, recipe) => {
    let sound: LoadedSound;
    let notes: number[];
    beforeAll(() => ({ sound, notes } = loaded(recipe)));

    it('is neither lost nor overwhelming beside the others', () => {
      for (const note of notes) {
        const loudness = measureNote(sound, note, 100);
        // A short knock is heard as loud as it is struck, but measures low.
        expect(loudness).toBeGreaterThan(isKit(recipe) ? -52 : -44);
        expect(loudness).toBeLessThan(-14);
      }
    });

    // What plays once to its end is as rough after the key is let go as before.
    it.skipIf(isKit(recipe))('ends without a click and leaves no voice behind', () => {
      const { release } = recipe.voicing;
      for (const note of notes) {
        const until = 0.8 + release * 1.7 + 0.2;
        const { heard, voices } = play(sound, note, 110, 0.8, until);
        const whileHeld = steepest(heard, 0.5, 0.8);
        expect(steepest(heard, 0.8, until)).toBeLessThanOrEqual(whileHeld * 1.2 + 1e-4);
        expect(voices).toBe(0);
      }
    });

    it('is louder when struck harder, all the way up', () => {
      const middle = notes[1];
      const values = [20, 60, 100, 127].map((velocity) => measureNote(sound, middle, velocity));
      expect(values).toEqual([...values].sort((a, b) => a - b));
      expect(values[3] - values[0]).toBeGreaterThan(1.5);
    });
  },
);
