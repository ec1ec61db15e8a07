import type { Keepsake } from '../model/library/keepsake.js';
import { newPatchSound, type PatchSound } from '../model/patch/patch.js';
import { SOUND_CATEGORIES, type Sound, type SoundCategory } from '../model/library/sound.js';
import { alsoCalled } from './plain-words.js';

/** Something that can be taken: a sound of the library, or what the player has kept. */
export interface ShelfItem {
  id: string;
  name: string;
  /** Where it stands: a category, or for a kept patch none. */
  category: SoundCategory | null;
  tags: readonly string[];
  favourite: boolean;
  /** Layers of the show that play it. */
  uses: number;
  /** The library's sound behind it; null for a whole patch, or when it is gone. */
  sound: Sound | null;
  /** The sound as it would be played; null for a whole patch. */
  played: PatchSound | null;
  /** What was kept; null for a sound of the library. */
  keepsake: Keepsake | null;
}

/** Everything on the shelf. */
export function shelf(
  sounds: ReadonlyMap<string, Sound>,
  keepsakes: readonly Keepsake[],
  uses: ReadonlyMap<string, number>,
): ShelfItem[] {
  const library = [...sounds.values()].map((sound): ShelfItem => {
    const { id, name, category, tags, favourite } = sound;
    return {
      id,
      name,
      category,
      tags,
      favourite,
      uses: uses.get(id) ?? 0,
      sound,
      played: newPatchSound(`shelf-${id}`.slice(0, 64), id),
      keepsake: null,
    };
  });
  const kept = keepsakes.flatMap((keepsake) => keptItem(keepsake, sounds) ?? []);
  return [...library, ...kept];
}

/** A keepsake as it stands on the shelf; null for a band, which has no sound. */
function keptItem(keepsake: Keepsake, sounds: ReadonlyMap<string, Sound>): ShelfItem | null {
  const { id, name, favourite, content } = keepsake;
  if (content.kind === 'band') return null;
  const played = content.kind === 'patch' ? null : content.sound;
  const sound = (played && sounds.get(played.librarySoundId)) ?? null;
  const tags =
    content.kind === 'patch'
      ? ['kept patch', ...content.patch.layers.map((layer) => layer.name)]
      : [`kept ${content.kind}`, ...(sound ? [sound.name, ...sound.tags] : [])];
  return {
    id,
    name,
    category: sound?.category ?? null,
    tags,
    favourite,
    uses: 0,
    sound,
    played,
    keepsake,
  };
}

/** What is looked for on the shelf. */
export interface ShelfSearch {
  /** Parts of words, in any order; each must be found in name, category or tags, as it is or as it is called there. */
  words: string;
  category: SoundCategory | null;
  favouritesOnly: boolean;
  /** Only what the player has kept. */
  keptOnly: boolean;
}

export const EVERYTHING: ShelfSearch = {
  words: '',
  category: null,
  favouritesOnly: false,
  keptOnly: false,
};

/**
 * The items that are meant, the most used first, then favourites, then in the order of the shelves. While words are typed,
 * names that begin with them come before all others, and what bears the words themselves before what is only called alike.
 */
export function searchShelf(items: readonly ShelfItem[], search: ShelfSearch): ShelfItem[] {
  const wanted = plain(search.words)
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => ({ word, also: alsoCalled(word) }));
  /** How many of the words stand there as they were typed. */
  const literal = new Map<ShelfItem, number>();
  const found = items.filter((item) => {
    if (search.category && item.category !== search.category) return false;
    if (search.favouritesOnly && !item.favourite) return false;
    if (search.keptOnly && !item.keepsake) return false;
    const text = plain([item.name, item.category ?? '', ...item.tags].join(' '));
    literal.set(item, wanted.filter(({ word }) => text.includes(word)).length);
    return wanted.every(
      ({ word, also }) => text.includes(word) || also.some((name) => text.includes(name)),
    );
  });
  const begins = (item: ShelfItem) =>
    Number(wanted.length > 0 && plain(item.name).startsWith(wanted[0].word));
  return found.sort(
    (a, b) =>
      begins(b) - begins(a) ||
      (literal.get(b) ?? 0) - (literal.get(a) ?? 0) ||
      b.uses - a.uses ||
      Number(b.favourite) - Number(a.favourite) ||
      placeOf(a) - placeOf(b) ||
      a.name.localeCompare(b.name),
  );
}

function placeOf({ category }: ShelfItem): number {
  return category ? SOUND_CATEGORIES.indexOf(category) : SOUND_CATEGORIES.length;
}

/** Small letters without accents. */
function plain(text: string): string {
  return text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '');
}
