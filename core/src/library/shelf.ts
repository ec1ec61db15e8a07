import type { Keepsake } from '../model/library/keepsake.js';
import { newPatchSound, type PatchSound } from '../model/patch/patch.js';
import { SOUND_CATEGORIES, type Sound, type SoundCategory } from '../model/library/sound.js';

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
  return [...library, ...keepsakes.map((keepsake) => keptItem(keepsake, sounds))];
}

function keptItem(keepsake: Keepsake, sounds: ReadonlyMap<string, Sound>): ShelfItem {
  const { id, name, favourite, content } = keepsake;
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
  /** Parts of words, in any order; each must be found in name, category or tags. */
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
 * names that begin with them come before all others.
 */
export function searchShelf(items: readonly ShelfItem[], search: ShelfSearch): ShelfItem[] {
  const wanted = plain(search.words).split(/\s+/).filter(Boolean);
  const found = items.filter((item) => {
    if (search.category && item.category !== search.category) return false;
    if (search.favouritesOnly && !item.favourite) return false;
    if (search.keptOnly && !item.keepsake) return false;
    const text = plain([item.name, item.category ?? '', ...item.tags].join(' '));
    return wanted.every((word) => text.includes(word));
  });
  const begins = (item: ShelfItem) =>
    Number(wanted.length > 0 && plain(item.name).startsWith(wanted[0]));
  return found.sort(
    (a, b) =>
      begins(b) - begins(a) ||
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
