import type { NoteNaming } from '@pentachord/core/pitch';
import { groundOf } from '@pentachord/core/coverage';
import type { PlayedKey } from '@pentachord/core/loudness';
import {
  compareNames,
  heardChannel,
  isKeyboard,
  SOUND_CATEGORIES,
  type Cue,
  type Device,
  type Keepsake,
  type Keyboard,
  type Patch,
  type Pattern,
  type Song,
} from '@pentachord/core/model';
import { compileRig, patchInPlay, withPicks } from '@pentachord/core/routing';
import {
  bySong,
  missingIn,
  overrun,
  songEntryOf,
  songTonight,
  steps,
  timeline,
  totalSeconds,
  withCue,
} from '@pentachord/core/setlist';
import { createSelector } from '@ngrx/store';
import type { AppState } from './reducers';

const NO_LABELS: readonly string[] = Array.from({ length: 16 }, () => '');

export const selectLoading = (state: AppState) => state.loading;
export const selectSession = (state: AppState) => state.session;
export const selectThings = (state: AppState) => state.document.things;
export const selectDatabase = (state: AppState) => state.document.database;
export const selectShowId = (state: AppState) => state.document.showId;

export const selectShow = createSelector(selectThings, selectShowId, (things, id) =>
  id ? (things.shows[id] ?? null) : null,
);
export const selectPreferences = (state: AppState) => state.preferences;
/** How notes are called: as the player prefers it, else as the show does. */
export const selectMiddleC = createSelector(
  selectShow,
  selectPreferences,
  (show, { middleC, accidentals, noteNumbers }): NoteNaming => {
    const own = middleC ?? show?.middleC ?? 4;
    if (accidentals === 'usual' && !noteNumbers) return own;
    return { middleC: own, spelling: accidentals, numbers: noteNumbers };
  },
);

const selectDevicesById = createSelector(selectThings, (things) => things.devices);
const selectSongsById = createSelector(selectThings, (things) => things.songs);
const selectCuesById = createSelector(selectThings, (things) => things.cues);
const selectSoundsById = createSelector(selectThings, (things) => things.sounds);

const selectRigId = createSelector(selectShow, (show) => show?.rigId ?? null);
/** What the sixteen channels are called at the rig of the open show; empty texts for those without a label. */
export const selectLabels = createSelector(
  selectThings,
  selectRigId,
  ({ rigs }, rigId): readonly string[] => (rigId && rigs[rigId]?.labels) || NO_LABELS,
);
/** What stands on the stage of the open show. */
export const selectDevices = createSelector(
  selectDevicesById,
  selectRigId,
  (devices, rigId): Device[] =>
    Object.values(devices)
      .filter((device) => device.rigId === rigId)
      .sort((a, b) => a.position - b.position),
);
export const selectKeyboards = createSelector(selectDevices, (devices) =>
  devices.filter(isKeyboard),
);
export const selectRig = createSelector(selectDevices, compileRig);
export const selectSongs = createSelector(
  selectSongsById,
  (songs): ReadonlyMap<string, Song> => new Map(Object.entries(songs)),
);
export const selectSounds = createSelector(
  selectSoundsById,
  (sounds) => new Map(Object.entries(sounds)),
);
const selectPatternsById = createSelector(selectThings, (things) => things.patterns);
export const selectPatterns = createSelector(
  selectPatternsById,
  (patterns): ReadonlyMap<string, Pattern> => new Map(Object.entries(patterns)),
);
export const selectLibrary = createSelector(selectSounds, (sounds) =>
  [...sounds.values()].sort(
    (a, b) =>
      SOUND_CATEGORIES.indexOf(a.category) - SOUND_CATEGORIES.indexOf(b.category) ||
      compareNames(a.name, b.name),
  ),
);

export const selectTimeline = createSelector(selectShow, selectSongs, (show, songs) =>
  timeline(show?.order ?? [], songs),
);
export const selectTotalSeconds = createSelector(selectTimeline, totalSeconds);
/** What happens when the night is longer than its slot; null when it is not. */
export const selectOverrun = createSelector(selectTimeline, selectShow, (entries, show) =>
  show ? overrun(entries, show.slotSeconds) : null,
);
export const selectSteps = createSelector(
  selectShow,
  selectSongs,
  selectCuesById,
  (show, songs, cues) => steps(show?.order ?? [], songs, Object.values(cues)),
);

/** What the show needs and is not there, by name: sounds, modules, patches of cues. */
export const selectMissing = createSelector(
  selectThings,
  selectSteps,
  selectDevices,
  ({ patches, cues, sounds }, steps, devices) =>
    missingIn(steps, { patches, cues, sounds, devices }),
);

/** The current place in the running order; null for a song that is open outside of it. */
export const selectEntry = createSelector(selectShow, selectSession, (show, { entryId }) =>
  show ? songEntryOf(show, entryId) : null,
);
/** The current song as it is written. */
export const selectWrittenSong = createSelector(
  selectThings,
  selectSession,
  (things, { songId }) => (songId ? (things.songs[songId] ?? null) : null),
);
/** The current song as it is played tonight. */
export const selectSong = createSelector(
  selectWrittenSong,
  selectEntry,
  (song, entry) => song && songTonight(song, entry?.songId === song.id ? entry.tonight : null),
);
export const selectCue = createSelector(selectThings, selectSession, (things, { cueId }) =>
  cueId ? (things.cues[cueId] ?? null) : null,
);
/** The patch on the desk as it is written. */
export const selectWrittenPatch = createSelector(
  selectThings,
  selectSession,
  (things, { patchId }) => (patchId ? (things.patches[patchId] ?? null) : null),
);
/** The cue whose balance is on the desk; null while the patch is there as it is written. */
export const selectBalancedCue = createSelector(
  selectWrittenPatch,
  selectCue,
  selectSession,
  (patch, cue, { balance }) => (balance === 'cue' && cue?.patchId === patch?.id ? cue : null),
);
/** The patch on the desk as it is shown, heard and edited: as it is written, or with its cue’s balance. */
export const selectPatch = createSelector(
  selectWrittenPatch,
  selectBalancedCue,
  (patch, cue) => patch && withCue(patch, cue),
);
export const selectPatchSong = createSelector(
  selectThings,
  selectWrittenPatch,
  selectEntry,
  (things, patch, entry) => {
    const song = patch ? (things.songs[patch.songId] ?? null) : null;
    return song && songTonight(song, entry?.songId === song.id ? entry.tonight : null);
  },
);
export const selectCuesBySong = createSelector(selectCuesById, (cues): ReadonlyMap<string, Cue[]> =>
  bySong(Object.values(cues)),
);
export const selectPatchesById = createSelector(selectThings, (things) => things.patches);
export const selectPatchesBySong = createSelector(
  selectPatchesById,
  (patches): ReadonlyMap<string, Patch[]> => bySong(Object.values(patches)),
);

export const selectPatchesOfSong = createSelector(
  selectPatchesBySong,
  selectPatchSong,
  (patches, song) => (song && patches.get(song.id)) ?? [],
);

const selectHands = createSelector(selectSession, ({ hands }) => hands);
const selectOctaves = createSelector(selectHands, ({ octaves }) => octaves);
const selectPicks = createSelector(selectHands, ({ picks }) => picks);
/** Levels of layers that hands have moved since, by id. */
export const selectLevelsNow = createSelector(selectHands, ({ levels }) => levels);
/** What stands on the stage as it is heard: with the octaves that controls have switched. */
export const selectHeardDevices = createSelector(selectDevices, selectOctaves, (devices, octaves) =>
  devices.map((device) =>
    isKeyboard(device) && octaves[device.id]
      ? { ...device, octaveShift: device.octaveShift + octaves[device.id] }
      : device,
  ),
);
const selectHeardKeyboards = createSelector(selectHeardDevices, (devices) =>
  devices.filter(isKeyboard),
);
const selectKeyboardId = createSelector(selectSession, ({ keyboardId }) => keyboardId);
/** The keyboard that the field shows, as it is heard: the one chosen, else the first. */
export const selectKeyboard = createSelector(
  selectHeardKeyboards,
  selectKeyboardId,
  (keyboards, keyboardId): Keyboard | null =>
    keyboards.find((keyboard) => keyboard.id === keyboardId) ?? keyboards.at(0) ?? null,
);

const selectSoloed = createSelector(selectSession, ({ soloed }) => soloed);
export const selectSoloedSet = createSelector(
  selectSoloed,
  (soloed): ReadonlySet<string> => new Set(soloed),
);

/** The patch on the desk, made ready, as the field, the remarks and the trace see it. */
export const selectCompiled = createSelector(
  selectWrittenPatch,
  selectPatchSong,
  selectRig,
  selectSoloedSet,
  selectBalancedCue,
  selectPicks,
  selectPatterns,
  selectSounds,
  (patch, song, rig, soloed, cue, picks, patterns, sounds) =>
    patch &&
    withPicks(
      patchInPlay(patch, { rig, song, cue, soloed, patterns, sounds }).compiled,
      ({ id, chosen }) => (picks as Partial<typeof picks>)[id] ?? chosen,
    ),
);

/** Every key of every keyboard of the rig, as layers hear it. */
export const selectPlayedKeys = createSelector(
  selectKeyboards,
  selectRig,
  (keyboards, rig): PlayedKey[] =>
    keyboards.flatMap((keyboard) => {
      const device = rig.ids.indexOf(keyboard.id);
      const { low, high } = groundOf(keyboard).keys;
      return Array.from({ length: high - low + 1 }, (_, i) => ({
        device,
        channel: heardChannel(keyboard),
        key: low + i,
      }));
    }),
);

/** How many layers of the show play each library sound. */
export const selectUses = createSelector(
  selectThings,
  ({ patches }): ReadonlyMap<string, number> => {
    const uses = new Map<string, number>();
    for (const { sounds, layers } of Object.values(patches))
      for (const { soundId } of layers) {
        const id = sounds.find((sound) => sound.id === soundId)?.librarySoundId ?? '';
        uses.set(id, (uses.get(id) ?? 0) + 1);
      }
    return uses;
  },
);

const selectKeepsakesById = createSelector(selectThings, (things) => things.keepsakes);
export const selectKeepsakes = createSelector(selectKeepsakesById, (keepsakes): Keepsake[] =>
  Object.values(keepsakes).sort((a, b) => compareNames(a.name, b.name)),
);
