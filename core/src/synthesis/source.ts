import { houseSourceId, recipeIn } from '../model/library/source-id.js';
import { HOUSE_SOUNDS, recipeOf } from './house-sounds.js';
import { diesAway, type SoundRecipe } from './recipe.js';
import type { Voicing } from './zone.js';

/**
 * What a sound is played from, wherever its zones come from. How they are made is told by `zonesOf`, so that whoever only plays
 * need not carry that along.
 */
export interface SoundSource {
  /** What it is known by everywhere. */
  id: string;
  name: string;
  voicing: Voicing;
  /** Whether its notes ring on and die away by themselves, as struck and plucked ones do. */
  ringsOn: boolean;
}

/** The source of an id; undefined for an id that is none. */
export function sourceOf(id: string): SoundSource | undefined {
  const name = recipeIn(id);
  const recipe = name === null ? undefined : recipeOf(name);
  return recipe && houseSource(recipe);
}

/** Every source of the house. */
export function houseSources(): SoundSource[] {
  return HOUSE_SOUNDS.map(houseSource);
}

function houseSource(recipe: SoundRecipe): SoundSource {
  const { id, name, voicing } = recipe;
  return {
    id: houseSourceId(id),
    name,
    voicing,
    ringsOn: diesAway(recipe),
  };
}
