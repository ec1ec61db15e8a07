import type { Patch } from '../model/patch/patch.js';
import type { Cue } from '../model/show/cue.js';
import type { Song } from '../model/show/song.js';
import type { CompiledRig } from '../routing/compile.js';
import { patchInPlay } from '../routing/patch-in-play.js';
import { alarms, mendsToTry, type Mend } from './mends.js';
import type { Remark } from './remark.js';
import { remarks, type RemarkSettings } from './remarks.js';

/** Where in a night a patch is played: at a place in the running order, with a cue or as it is written. */
export interface PlayedPlace {
  entryId: string;
  songId: string;
  cueId: string | null;
  patchId: string;
}

/** A night, as far as its patches are judged. */
export interface JudgedNight {
  /** Where patches are played, in the order of the night. */
  places: readonly PlayedPlace[];
  songs: ReadonlyMap<string, Song>;
  patches: Readonly<Record<string, Patch>>;
  cues: Readonly<Record<string, Cue>>;
  rig: CompiledRig;
}

/** Something noticed in a patch as it is played at a place of a night. */
export interface RemarkInShow extends Remark {
  at: PlayedPlace;
}

const NOBODY: ReadonlySet<string> = new Set();

/**
 * Everything worth noticing about a night: each patch as it is played in its song, with each of its cues. What is so at several
 * places of one song is told where it is so first.
 */
export function remarksInShow(night: JudgedNight, settings: RemarkSettings): RemarkInShow[] {
  const told = new Set<string>();
  return night.places.flatMap((at) =>
    remarksAt(night, at, settings).flatMap((remark) => {
      const matter = `${at.songId} ${at.patchId} ${remark.id}`;
      if (told.has(matter)) return [];
      told.add(matter);
      return [{ ...remark, at }];
    }),
  );
}

/**
 * What one click can do about a remark of a night, if it is sure to help: it is so nowhere afterwards where this patch is played
 * in that song, and no place of the night has more alarms than before.
 */
export function mendInShow(
  remark: RemarkInShow,
  night: JudgedNight,
  settings: RemarkSettings,
): Mend | null {
  const { patchId, songId } = remark.at;
  const places = night.places.filter((place) => place.patchId === patchId);
  const before = places.map((at) => alarms(remarksAt(night, at, settings)));
  for (const { mend, mended } of mendsToTry(remark, night.patches[patchId], settings.devices)) {
    const other = { ...night, patches: { ...night.patches, [patchId]: mended } };
    const helps = places.every((at, i) => {
      const after = remarksAt(other, at, settings);
      const isStillSo = at.songId === songId && after.some(({ id }) => id === remark.id);
      return !isStillSo && alarms(after) <= before[i];
    });
    if (helps) return mend;
  }
  return null;
}

function remarksAt(
  { songs, patches, cues, rig }: JudgedNight,
  { songId, cueId, patchId }: PlayedPlace,
  settings: RemarkSettings,
): Remark[] {
  const patch = patches[patchId] as Patch | undefined;
  if (!patch) return [];
  const cue = cueId === null ? null : ((cues[cueId] as Cue | undefined) ?? null);
  const song = songs.get(songId) ?? null;
  return remarks(patchInPlay(patch, { rig, song, cue, soloed: NOBODY }).compiled, settings);
}
