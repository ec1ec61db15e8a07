/** Something that stands at a place in a song: a cue or a patch. */
interface InSong {
  songId: string;
  position: number;
}

/** Cues or patches by the song they belong to, in their order. */
export function bySong<T extends InSong>(things: readonly T[]): Map<string, T[]> {
  const songs = new Map<string, T[]>();
  for (const thing of things) {
    const own = songs.get(thing.songId);
    if (own) own.push(thing);
    else songs.set(thing.songId, [thing]);
  }
  for (const own of songs.values()) own.sort((a, b) => a.position - b.position);
  return songs;
}

/** A list with some of its members moved together to where another stands (null: to the end), in the order they have. */
export function movedTogether<T extends { id: string }>(
  list: readonly T[],
  ids: ReadonlySet<string>,
  before: string | null,
): T[] {
  const moved = list.filter(({ id }) => ids.has(id));
  let target = before;
  // What they are to stand before may be one of them: then it is the next that is not.
  while (target !== null && ids.has(target)) {
    const at = list.findIndex(({ id }) => id === target);
    target = list.at(at + 1)?.id ?? null;
    if (at + 1 >= list.length) target = null;
  }
  const rest = list.filter(({ id }) => !ids.has(id));
  const at = target === null ? rest.length : rest.findIndex(({ id }) => id === target);
  return [...rest.slice(0, at), ...moved, ...rest.slice(at)];
}

/** A list with some of its members moved by one place up (−1) or down (1) as a block; the same list at an end. */
export function movedByOne<T extends { id: string }>(
  list: readonly T[],
  ids: ReadonlySet<string>,
  by: 1 | -1,
): T[] {
  const places = list.flatMap(({ id }, at) => (ids.has(id) ? [at] : []));
  if (places.length === 0) return [...list];
  const beyond = by < 0 ? places[0] - 1 : places[places.length - 1] + 1;
  if (beyond < 0 || beyond >= list.length) return [...list];
  return by < 0
    ? movedTogether(list, ids, list[beyond].id)
    : movedTogether(list, ids, list.at(beyond + 1)?.id ?? null);
}
