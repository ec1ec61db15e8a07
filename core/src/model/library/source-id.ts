import type { Sound } from './sound.js';

const HOUSE = 'house/';

/** What the source of a house sound is known by. */
export function houseSourceId(recipe: string): string {
  return HOUSE + recipe;
}

/** The recipe of a house sound’s source; null for one that is not of the house. */
export function recipeIn(sourceId: string): string | null {
  return sourceId.startsWith(HOUSE) ? sourceId.slice(HOUSE.length) : null;
}

/** What a sound of the library is played from; null for one that a module plays. */
export function sourceIdOf({ origin }: Pick<Sound, 'origin'>): string | null {
  return origin.kind === 'house' ? houseSourceId(origin.recipe) : null;
}
