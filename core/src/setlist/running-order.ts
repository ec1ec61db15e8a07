import type { Cue } from '../model/show/cue.js';
import type { OrderEntry, Show, SongEntry } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';
import { bySong } from './in-order.js';
import { songTonight } from './tonight.js';

/** What stands in the night for a song that cannot be read. */
export const DAMAGED_SONG = 'a damaged song: see Backups';

/** An entry of the running order with its place in time. */
export interface TimedEntry {
  entry: OrderEntry;
  /** The song as it is played this night; null for talk and breaks, and for a song that cannot be read. */
  song: Song | null;
  name: string;
  /** Seconds from the start of the show. */
  start: number;
  lengthSeconds: number;
  /** False for an encore, which does not count against the slot. */
  counts: boolean;
}

/**
 * Lays the running order out in time. A song that cannot be read keeps its place, and takes no time. Encores take no time of what comes after
 * them: they lie behind what counts so far, one after the other.
 */
export function timeline(
  order: readonly OrderEntry[],
  songs: ReadonlyMap<string, Song>,
): TimedEntry[] {
  const entries: TimedEntry[] = [];
  let counted = 0;
  let encores = 0;
  for (const entry of order) {
    const written = entry.kind === 'song' ? (songs.get(entry.songId) ?? null) : null;
    const song = written && songTonight(written, entry.kind === 'song' ? entry.tonight : null);
    const name = entry.kind === 'song' ? (song?.name ?? DAMAGED_SONG) : entry.name;
    const lengthSeconds = entry.kind === 'song' ? (song?.lengthSeconds ?? 0) : entry.lengthSeconds;
    const counts = entry.kind !== 'song' || !entry.encore;
    if (counts) encores = 0;
    entries.push({ entry, song, name, start: counted + encores, lengthSeconds, counts });
    if (counts) counted += lengthSeconds;
    else encores += lengthSeconds;
  }
  return entries;
}

/** Length of a timeline in seconds, without encores. */
export function totalSeconds(entries: readonly TimedEntry[]): number {
  return entries.reduce((sum, entry) => sum + (entry.counts ? entry.lengthSeconds : 0), 0);
}

/** A night that is longer than its slot. */
export interface Overrun {
  seconds: number;
  /** What is being played when the slot ends. */
  crossing: TimedEntry;
  /** What would not be begun any more. */
  behind: TimedEntry[];
  /** Each of these, left out, would make the night fit; the shortest that does comes first. */
  without: { entry: TimedEntry; totalSeconds: number }[];
}

/** What happens when the night is longer than its slot; null when it is not. */
export function overrun(entries: readonly TimedEntry[], slotSeconds: number): Overrun | null {
  const counted = entries.filter(({ counts }) => counts);
  const total = totalSeconds(entries);
  if (total <= slotSeconds) return null;
  const at = counted.findIndex((e) => e.start + e.lengthSeconds > slotSeconds);
  return {
    seconds: total - slotSeconds,
    crossing: counted[at],
    behind: counted.slice(at + 1),
    without: counted
      .map((entry) => ({ entry, totalSeconds: total - entry.lengthSeconds }))
      .filter((one) => one.totalSeconds <= slotSeconds)
      .sort((a, b) => b.totalSeconds - a.totalSeconds),
  };
}

/** One step of the show: a song's place in the night and the cue in it, or the bare song when it has none. */
export interface Step {
  /** Place in the running order: one song may stand there twice. */
  entryId: string;
  songId: string;
  cueId: string | null;
  /** Place of the song among the songs, from 0. */
  songNumber: number;
  /** Place of the cue among those gone through this night, from 0. */
  cueNumber: number;
}

/** Every step of the show in playing order. */
export function steps(
  order: readonly OrderEntry[],
  songs: ReadonlyMap<string, Song>,
  cues: readonly Cue[],
): Step[] {
  const found: Step[] = [];
  const all = bySong(cues);
  let songNumber = 0;
  for (const entry of order) {
    if (entry.kind !== 'song' || !songs.has(entry.songId)) continue;
    const { id: entryId, songId, tonight } = entry;
    const own = (all.get(songId) ?? []).filter(({ id }) => !tonight?.leftOut.includes(id));
    if (own.length === 0) found.push({ entryId, songId, cueId: null, songNumber, cueNumber: 0 });
    own.forEach((cue, cueNumber) =>
      found.push({ entryId, songId, cueId: cue.id, songNumber, cueNumber }),
    );
    songNumber++;
  }
  return found;
}

/** A place in the show, as far as it is known. */
export interface StepPlace {
  entryId: string | null;
  songId: string | null;
  cueId: string | null;
}

/**
 * Index of the step for a place: the entry's cue, else its first; without an entry the song's cue where it stands first,
 * else the song's first step; −1 when neither is in the show.
 */
export function stepIndex(all: readonly Step[], { entryId, songId, cueId }: StepPlace): number {
  const at = (isIt: (step: Step) => boolean) => all.findIndex(isIt);
  let found = at((step) => step.entryId === entryId && step.cueId === cueId);
  if (found < 0) found = at((step) => step.entryId === entryId);
  if (found < 0 && songId !== null) {
    found = at((step) => step.songId === songId && step.cueId === cueId);
    if (found < 0) found = at((step) => step.songId === songId);
  }
  return found;
}

/** A song's entry of a show by its id; null when there is none, or it is no song's. */
export function songEntryOf({ order }: Show, entryId: string | null): SongEntry | null {
  const entry = entryId === null ? undefined : order.find(({ id }) => id === entryId);
  return entry?.kind === 'song' ? entry : null;
}
