import type { OrderEntry, Show } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';
import { clockTime } from '../units/times.js';
import { tonightInWords } from './tonight.js';

/** A show for another night: the same songs, talk, breaks, rig and controls; what held for one night alone stays behind. */
export function copyOfShow(
  show: Show,
  { id, name, date }: Pick<Show, 'id' | 'name' | 'date'>,
  newId: () => string,
): Show {
  return {
    ...show,
    id,
    name,
    date,
    copiedFrom: show.id,
    putAway: false,
    order: show.order.map((entry): OrderEntry =>
      entry.kind === 'song' ? { ...entry, id: newId(), tonight: null } : { ...entry, id: newId() },
    ),
  };
}

/** One thing in which a show differs from the one it was copied from. */
export interface ShowDifference {
  what: string;
  here: string;
  there: string;
}

/** What differs in a show from the one it was copied from, in a player's words. */
export function showDifferences(
  show: Show,
  origin: Show,
  songs: ReadonlyMap<string, Song>,
): ShowDifference[] {
  const found: ShowDifference[] = [];
  const differ = (what: string, here: string, there: string) => {
    if (here !== there) found.push({ what, here, there });
  };
  differ('place', show.place || '—', origin.place || '—');
  differ('doors', show.doors ?? '—', origin.doors ?? '—');
  differ('start', show.start ?? '—', origin.start ?? '—');
  differ('slot', clockTime(show.slotSeconds), clockTime(origin.slotSeconds));
  differ('fade', `${show.defaultFadeSeconds} s`, `${origin.defaultFadeSeconds} s`);
  const here = named(show.order, songs);
  const there = named(origin.order, songs);
  const kept = [...here.keys()].filter((key) => there.has(key));
  const settled = longestInOrder(kept, [...there.keys()]);
  for (const [key, { entry, name, place }] of here) {
    const other = there.get(key);
    if (!other) found.push({ what: name, here: `${place}.`, there: 'not there' });
    else {
      if (!settled.has(key)) differ(name, `${place}.`, `${other.place}.`);
      differ(`${name}, tonight`, nightOf(entry, songs), nightOf(other.entry, songs));
      differ(`${name}, encore`, encoreOf(entry), encoreOf(other.entry));
      if (entry.kind !== 'song' && other.entry.kind !== 'song')
        differ(
          `${name}, length`,
          clockTime(entry.lengthSeconds),
          clockTime(other.entry.lengthSeconds),
        );
    }
  }
  for (const [key, { name, place }] of there)
    if (!here.has(key)) found.push({ what: name, here: 'not here', there: `${place}.` });
  return found;
}

interface Named {
  entry: OrderEntry;
  name: string;
  place: number;
}

/** Entries by what they are: a song by its id, talk by its name; the second of the same kind is another one. */
function named(order: readonly OrderEntry[], songs: ReadonlyMap<string, Song>): Map<string, Named> {
  const found = new Map<string, Named>();
  order.forEach((entry, at) => {
    const song = entry.kind === 'song' ? songs.get(entry.songId) : undefined;
    if (entry.kind === 'song' && !song) return;
    const name = entry.kind === 'song' ? (song?.name ?? '') : entry.name;
    const key = entry.kind === 'song' ? `song ${entry.songId}` : `${entry.kind} ${entry.name}`;
    let number = 1;
    while (found.has(`${key} ${number}`)) number++;
    found.set(`${key} ${number}`, { entry, name, place: at + 1 });
  });
  return found;
}

/** The most of some keys that stand in the same order in another list: all others have been moved. */
function longestInOrder(keys: readonly string[], other: readonly string[]): ReadonlySet<string> {
  const places = keys.map((key) => other.indexOf(key));
  const length = places.map(() => 1);
  const previous = places.map(() => -1);
  let best = -1;
  places.forEach((place, i) => {
    for (let j = 0; j < i; j++)
      if (places[j] < place && length[j] >= length[i]) {
        length[i] = length[j] + 1;
        previous[i] = j;
      }
    if (best < 0 || length[i] > length[best]) best = i;
  });
  const found = new Set<string>();
  for (let i = best; i >= 0; i = previous[i]) found.add(keys[i]);
  return found;
}

function nightOf(entry: OrderEntry, songs: ReadonlyMap<string, Song>): string {
  const song = entry.kind === 'song' ? songs.get(entry.songId) : undefined;
  return entry.kind === 'song' && song && entry.tonight
    ? tonightInWords(song, entry.tonight)
    : 'as written';
}

function encoreOf(entry: OrderEntry): string {
  return entry.kind === 'song' && entry.encore ? 'yes' : 'no';
}
