import type { Sound } from './sound.js';

const HOUSE = 'house/';
const SAMPLED = 'recordings/';

/** What the source of a house sound is known by. */
export function houseSourceId(recipe: string): string {
  return HOUSE + recipe;
}

/** The recipe of a house sound’s source; null for one that is not of the house. */
export function recipeIn(sourceId: string): string | null {
  return sourceId.startsWith(HOUSE) ? sourceId.slice(HOUSE.length) : null;
}

/** Whether the source is a sound’s own recordings. */
export function isSampledSource(sourceId: string): boolean {
  return sourceId.startsWith(SAMPLED);
}

/** What a sound of the library is played from; null for one that a module plays. */
export function sourceIdOf({ id, origin }: Pick<Sound, 'id' | 'origin'>): string | null {
  if (origin.kind === 'recordings') return SAMPLED + id;
  return origin.kind === 'house' ? houseSourceId(origin.recipe) : null;
}
