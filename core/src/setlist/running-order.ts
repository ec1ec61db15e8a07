import type { Cue } from '../model/show/cue.js';
import type { OrderEntry } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';

/** An entry of the running order with its place in time. */
export interface TimedEntry {
  entry: OrderEntry;
  song: Song | null;
  name: string;
  /** Seconds from the start of the show. */
  start: number;
  lengthSeconds: number;
}

/** Lays the running order out in time. Entries whose song is gone are left out. */
export function timeline(
  order: readonly OrderEntry[],
  songs: ReadonlyMap<string, Song>,
): TimedEntry[] {
  const entries: TimedEntry[] = [];
  let start = 0;
  for (const entry of order) {
    const song = entry.kind === 'song' ? (songs.get(entry.songId) ?? null) : null;
    if (entry.kind === 'song' && !song) continue;
    const name = entry.kind === 'song' ? (song?.name ?? '') : entry.name;
    const lengthSeconds = entry.kind === 'song' ? (song?.lengthSeconds ?? 0) : entry.lengthSeconds;
    entries.push({ entry, song, name, start, lengthSeconds });
    start += lengthSeconds;
  }
  return entries;
}

/** Length of a timeline in seconds. */
export function totalSeconds(entries: readonly TimedEntry[]): number {
  return entries.reduce((sum, entry) => sum + entry.lengthSeconds, 0);
}

/** One step of the show: a song and the cue in it, or the bare song when it has none. */
export interface Step {
  songId: string;
  cueId: string | null;
  /** Place of the song among the songs, from 0. */
  songNumber: number;
  /** Place of the cue in its song, from 0. */
  cueNumber: number;
}

/** Every step of the show in playing order. */
export function steps(
  order: readonly OrderEntry[],
  songs: ReadonlyMap<string, Song>,
  cues: readonly Cue[],
): Step[] {
  const found: Step[] = [];
  const bySong = new Map<string, Cue[]>();
  for (const cue of cues) {
    const list = bySong.get(cue.songId);
    if (list) list.push(cue);
    else bySong.set(cue.songId, [cue]);
  }
  let songNumber = 0;
  for (const entry of order) {
    if (entry.kind !== 'song' || !songs.has(entry.songId)) continue;
    const own = (bySong.get(entry.songId) ?? []).sort((a, b) => a.position - b.position);
    if (own.length === 0)
      found.push({ songId: entry.songId, cueId: null, songNumber, cueNumber: 0 });
    own.forEach((cue, cueNumber) =>
      found.push({ songId: entry.songId, cueId: cue.id, songNumber, cueNumber }),
    );
    songNumber++;
  }
  return found;
}

/** Index of the step for a song and cue; the song's first step when the cue is unknown; −1 when the song is. */
export function stepIndex(all: readonly Step[], songId: string, cueId: string | null): number {
  const exact = all.findIndex((step) => step.songId === songId && step.cueId === cueId);
  return exact >= 0 ? exact : all.findIndex((step) => step.songId === songId);
}
