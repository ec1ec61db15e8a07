import type { Sound } from '@pentachord/core/model';
import { HOUSE_SOUNDS } from '@pentachord/core/synthesis';

const FAVOURITES = new Set(['felt-piano', 'tine-piano', 'slow-tide-strings']);

/** The library entries of the house sounds. */
export function houseLibrary(): Sound[] {
  return HOUSE_SOUNDS.map((recipe) => ({
    id: `house-${recipe.id}`,
    name: recipe.name,
    category: recipe.category,
    tags: recipe.tags,
    favourite: FAVOURITES.has(recipe.id),
    origin: { kind: 'house', recipe: recipe.id },
    lowestNote: recipe.natural.low,
    highestNote: recipe.natural.high,
  }));
}

/** The demo's outside sound, played by the stand-in module. */
export const HARBOUR_REEDS: Sound = {
  id: 'outside-harbour-reeds',
  name: 'Harbour reeds',
  category: 'outside',
  tags: ['module', 'reedy'],
  favourite: false,
  origin: { kind: 'outside', place: 'module1', channel: 3, bank: null, program: 4 },
  lowestNote: 36,
  highestNote: 96,
};
