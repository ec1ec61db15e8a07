import { houseSourceId, recipeIn } from '../model/library/source-id.js';
import { HOUSE_PLAYED, isHouse, type PlayedAs } from './house-played.js';

/**
 * What a sound is played from, wherever its zones come from. How they are made is told by `zonesOf`, so that whoever only plays
 * need not carry that along.
 */
export interface SoundSource extends PlayedAs {
  /** What it is known by everywhere. */
  id: string;
}

/** The source of an id; undefined for an id that is none. */
export function sourceOf(id: string): SoundSource | undefined {
  const name = recipeIn(id);
  return name !== null && isHouse(name) ? { id, ...HOUSE_PLAYED[name] } : undefined;
}

/** Every source of the house. */
export function houseSources(): SoundSource[] {
  return Object.entries(HOUSE_PLAYED).map(([name, played]) => ({
    id: houseSourceId(name),
    ...played,
  }));
}
