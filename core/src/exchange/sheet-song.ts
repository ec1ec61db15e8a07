import { layerLetter, type Patch } from '../model/patch/patch.js';
import { placeInWords } from '../model/rig/place.js';
import { isKeyboard } from '../model/rig/rig.js';
import { newCue, type Cue } from '../model/show/cue.js';
import { controlInWords } from '../model/show/show-control.js';
import type { Song } from '../model/show/song.js';
import { musicalKeyName } from '../pitch/musical-keys.js';
import { triggerName } from '../patterns/words.js';
import { noteName } from '../pitch/note-names.js';
import { rowsOf } from '../range/rows.js';
import { underHands } from '../routing/hands.js';
import type { CompiledPatch, CompiledRig } from '../routing/compile.js';
import { patchInPlay } from '../routing/patch-in-play.js';
import { cueDifferences } from '../setlist/cue-differences.js';
import { heardOf } from '../setlist/heard.js';
import { fadeSecondsOf } from '../setlist/recall.js';
import { jobsNow } from '../ties/in-force.js';
import { jobInWords } from '../ties/words.js';
import { clockTime } from '../units/times.js';
import type { SheetControl, SheetSources } from './sheet-sources.js';

/** A song on paper. */
export interface SheetSong {
  number: number;
  name: string;
  /** Beats per minute and metre. */
  tempo: string;
  metre: string;
  fingered: string;
  sounding: string;
  length: string;
  /** What is otherwise this night; empty for nothing. */
  otherwise: string;
  /** Words and notes, line by line. */
  notes: readonly string[];
  maps: readonly SheetMap[];
  cues: readonly SheetCue[];
  controls: readonly SheetControl[];
}

/** One keyboard with what a patch lays on it. */
export interface SheetMap {
  patch: string;
  keyboard: string;
  /** The keys that it has, as the layers hear them. */
  lowest: number;
  highest: number;
  bars: readonly SheetBar[];
  /** What keys start. */
  starts: readonly { key: string; names: readonly string[] }[];
}

/** A layer over the keys that it answers. */
export interface SheetBar {
  letter: string;
  name: string;
  words: string;
  low: number;
  high: number;
  /** Rows over one another, from 0. */
  row: number;
  muted: boolean;
}

/** A cue on paper. */
export interface SheetCue {
  at: string;
  name: string;
  /** The patch that it brings; empty where it stays. */
  patch: string;
  /** What is otherwise than in the cue before. */
  changes: readonly string[];
  glide: string;
  /** What goes to this cue from anywhere. */
  presses: readonly string[];
  note: string;
}

interface SongSources extends Omit<SheetSources, 'songs'> {
  /** The cues that are gone through. */
  cues: readonly Cue[];
  compiled: CompiledRig;
  otherwise: string;
}

/** What stands on the page of a song. */
export function sheetSong(number: number, song: Song, sources: SongSources): SheetSong {
  const { patches, cues, otherwise } = sources;
  const played = [...new Set(cues.map(({ patchId }) => patchId))].flatMap(
    (id) => patches.get(id) ?? [],
  );
  return {
    number,
    name: song.name,
    tempo: `${song.tempo}`,
    metre: `${song.metre.beats}/${song.metre.unit}`,
    fingered: musicalKeyName(song.fingered),
    sounding: musicalKeyName(song.sounding),
    length: clockTime(song.lengthSeconds),
    otherwise,
    notes: linesOf(song.notes),
    maps: played.flatMap((patch) => mapsOf(patch, song, sources)),
    cues: cues.map((cue, at) => sheetCue(cue, at === 0 ? null : cues[at - 1], song, sources)),
    controls: controlsOf(played, song, sources),
  };
}

/** Lines of a text; several empty ones are one, so that no page is left white. */
function linesOf(text: string): string[] {
  if (text.trim() === '') return [];
  return text
    .trim()
    .replace(/\n\s*\n/g, '\n\n')
    .split('\n');
}

function mapsOf(patch: Patch, song: Song, sources: SongSources): SheetMap[] {
  const { show, devices, sounds, patterns, compiled: rig } = sources;
  const playedWith = { rig, song, cue: null, soloed: new Set<string>(), sounds, patterns };
  const { compiled } = patchInPlay(patch, playedWith);
  return devices.filter(isKeyboard).flatMap((keyboard) => {
    const shift = keyboard.octaveShift * 12;
    const hands = underHands(compiled, keyboard, show.middleC);
    const rows = rowsOf(hands.map(({ keys }) => keys));
    const bars = hands.map(({ layer, keys: { low, high }, words, muted }, at): SheetBar => {
      const letter = layerLetter(layer.index);
      return { letter, name: layer.name, words, low, high, row: rows[at], muted };
    });
    const starts = startsOn(compiled, rig.ids.indexOf(keyboard.id), show.middleC);
    if (bars.length === 0 && starts.length === 0) return [];
    return {
      ...{ patch: patch.name, keyboard: keyboard.name, bars, starts },
      lowest: keyboard.lowestKey + shift,
      highest: keyboard.highestKey + shift,
    };
  });
}

function startsOn(
  { band }: CompiledPatch,
  device: number,
  middleC: SheetSources['show']['middleC'],
): SheetMap['starts'] {
  const starts: SheetMap['starts'][number][] = [];
  for (let key = 0; device >= 0 && key < 128; key++) {
    const at = band.triggerAt[device * 128 + key];
    if (at === 0) continue;
    const names = band.triggers[at - 1].map((trigger) => triggerName(trigger, band));
    starts.push({ key: noteName(key, middleC), names });
  }
  return starts;
}

function sheetCue(
  cue: Cue,
  before: Cue | null,
  song: Song,
  { show, devices, patches }: SongSources,
): SheetCue {
  const patch = patches.get(cue.patchId);
  const same = before?.patchId === cue.patchId ? before : null;
  const fade = fadeSecondsOf(cue, show.defaultFadeSeconds);
  const programs = cue.programs.map(
    ({ place, channel, program }) =>
      `program ${program + 1} on ${placeInWords(place)}, channel ${channel}`,
  );
  return {
    // The first cue is the song’s beginning, wherever it was put.
    at: clockTime(before ? cue.atSeconds : 0),
    name: cue.name,
    patch: same ? '' : (patch?.name ?? ''),
    changes: [...(patch ? changesOf(patch, same, cue, song) : []), ...programs],
    glide: fade === 0 ? 'at once' : `${fade} s`,
    presses: show.controls
      .filter((control) => control.action === 'goTo' && control.cueId === cue.id)
      .map((control) => controlInWords(control, devices)),
    note: cue.note,
  };
}

/** What a cue has otherwise than the one before, or than its patch as it is written: `no Bells`, `with Bells`, `Pad −14 dB`. */
function changesOf(patch: Patch, before: Cue | null, cue: Cue, song: Song): string[] {
  const meant = before ?? newCue('', song.id, 0, '', patch.id);
  const heard = heardOf(patch, cue, song.tempo);
  const names = new Map(patch.layers.map(({ id, name }) => [id, name]));
  const silent = new Set(Object.keys(heard.layers).filter((id) => heard.layers[id].muted));
  return cueDifferences(meant, patch, heard, song.tempo).flatMap(({ layerId, what, now }) => {
    const name = layerId === null ? null : names.get(layerId);
    if (name === undefined || name === null) return `${what} ${now}`;
    if (what === 'mute') return now === 'on' ? `no ${name}` : `with ${name}`;
    // How loud it would be is nothing to read about what is silent.
    if (layerId !== null && silent.has(layerId)) return [];
    if (what === 'level') return `${name} ${now}`;
    // Settings of an accompanist say themselves whose they are.
    return what.includes(name) ? `${what} ${now}` : `${name}: ${what} ${now}`;
  });
}

/** What controls do in the song and its patches, each told once. */
function controlsOf(played: readonly Patch[], song: Song, sources: SongSources): SheetControl[] {
  const { devices, show, rig } = sources;
  const found = new Map<string, SheetControl>();
  for (const patch of played)
    for (const job of jobsNow({ devices, patch, song, show, rig })) {
      if (job.owner !== 'patch' && job.owner !== 'song') continue;
      const told = { control: controlInWords(job, devices), does: jobInWords(job, patch) };
      found.set(`${told.control} ${told.does}`, told);
    }
  return [...found.values()];
}
