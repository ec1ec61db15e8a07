import { describe, expect, it } from 'vitest';
import { patchSchema } from '../model/patch/patch.js';
import { HOUSE_SOUNDS } from '../synthesis/house-sounds.js';
import { coverage } from '../coverage/coverage.js';
import { compilePatch, compileRig } from '../routing/compile.js';
import { demoRig } from '../testing/fixtures.js';
import type { Place } from '../model/rig/place.js';
import { isKeyboard } from '../model/rig/rig.js';
import { forKeyboards, STARTING_POINTS } from './starting-points.js';

describe('starting points', () => {
  it('are at least ten, each a whole patch of sounds that ship', () => {
    expect(STARTING_POINTS.length).toBeGreaterThanOrEqual(10);
    const house = new Set(HOUSE_SOUNDS.map(({ id }) => `house-${id}`));
    for (const { name, patch } of STARTING_POINTS) {
      expect(patchSchema.safeParse(patch).error, name).toBeUndefined();
      for (const { librarySoundId } of patch.sounds) expect(house).toContain(librarySoundId);
    }
    expect(new Set(STARTING_POINTS.map(({ name }) => name)).size).toBe(STARTING_POINTS.length);
  });

  it('leave no key of the keyboard they are meant for silent at a usual strength', () => {
    const keyboards = demoRig.filter(isKeyboard);
    for (const { name, patch } of STARTING_POINTS) {
      const laid = forKeyboards(patch, ['keys1', 'keys2']);
      const compiled = compilePatch(laid, { rig: compileRig(demoRig), songShift: 0 });
      const silent = keyboards
        .filter(({ place }) =>
          laid.layers.some((l) => l.keyboards === 'any' || l.keyboards.includes(place)),
        )
        .flatMap((keyboard) => coverage(compiled, keyboard).silent);
      expect(silent, name).toEqual([]);
    }
  });

  it('lie on whatever keyboards there are', () => {
    const second = STARTING_POINTS.find(({ id }) => id === 'second-keys')?.patch;
    if (!second) throw new Error('there is no point for the second keys');
    const on = (places: Place[]) =>
      forKeyboards(second, places).layers.map(({ keyboards }) => keyboards);
    expect(on(['keys1', 'keys2'])).toEqual([['keys2'], ['keys2']]);
    expect(on(['keys3'])).toEqual([['keys3'], ['keys3']]);
    expect(on([])).toEqual(['any', 'any']);
  });
});
