import { patchCost, sharingAdvice, type MeasuredCosts } from '@pentachord/core/cost';
import { wholeLoudness, type Response, type Responses } from '@pentachord/core/loudness';
import { sourceIdOf, type Cue, type Patch, type Song } from '@pentachord/core/model';
import { patchInPlay } from '@pentachord/core/routing';
import { createSelector } from '@ngrx/store';
import type { Coloured } from '../../live/audio/sound-messages';
import type { AppState } from '../reducers';
import {
  selectCompiled,
  selectHeardDevices,
  selectMiddleC,
  selectPatch,
  selectPatchesById,
  selectPlayedKeys,
  selectRig,
  selectSounds,
  selectPatterns,
} from '../selectors';
import { measuredOf } from './measured';

const NOBODY: ReadonlySet<string> = new Set();

const selectMeasured = (state: AppState) => state.measured;
export const selectMachine = (state: AppState) => state.machine;

/** Share of a core that sound may use: as chosen, else as measured. */
export const selectBudget = createSelector(selectMachine, ({ budget, chosen }) => chosen ?? budget);

/** Measured responses by library sound. */
export const selectResponses = createSelector(
  selectSounds,
  selectMeasured,
  (sounds, measured): Responses => {
    const found = new Map<string, Response>(Object.entries(measured.coloured));
    for (const sound of sounds.values()) {
      const response = measuredOf(measured, sound)?.response;
      if (response) found.set(sound.id, response);
    }
    return found;
  },
);

/** How loud a cue of a song is as a whole, LUFS; −∞ while that is not known. */
export const selectLoudnessOf = createSelector(
  selectPatchesById,
  selectRig,
  selectResponses,
  selectPlayedKeys,
  (patches, rig, responses, played) => {
    const known = new Map<Cue, number>();
    return (cue: Cue, song: Song): number => {
      const patch = patches[cue.patchId] as Patch | undefined;
      const before = known.get(cue);
      if (before !== undefined) return before;
      const inPlay = patch && patchInPlay(patch, { rig, song, cue, soloed: NOBODY });
      const loudness = inPlay ? wholeLoudness(inPlay.compiled, responses, played) : -Infinity;
      known.set(cue, loudness);
      return loudness;
    };
  },
);

/** Sounds of the patch on the desk whose loudness in the colour they have is not known yet. */
export const selectUnmeasured = createSelector(
  selectPatch,
  selectCompiled,
  selectSounds,
  selectResponses,
  (patch, compiled, sounds, responses): Coloured[] => {
    if (!patch || !compiled) return [];
    return compiled.layers.flatMap(({ loudnessKey: key, librarySoundId, source }) => {
      const sound = sounds.get(librarySoundId);
      const sourceId = sound ? sourceIdOf(sound) : null;
      const timbre = patch.sounds.find(({ id }) => id === source.soundId)?.timbre;
      if (sourceId === null || !timbre) return [];
      if (key === librarySoundId || responses.has(key)) return [];
      return [{ key, sourceId, colour: { timbre, tone: source.tone } }];
    });
  },
);

/** From what remarks are computed. */
export const selectRemarkSettings = createSelector(
  selectHeardDevices,
  selectSounds,
  selectMiddleC,
  selectResponses,
  (devices, sounds, middleC, responses) => ({ devices, sounds, middleC, responses }),
);

/** What was measured to cost what, by library sound and effect. */
export const selectMeasuredCosts = createSelector(
  selectSounds,
  selectMeasured,
  selectMachine,
  (sounds, measured, { effects }): MeasuredCosts => {
    const voices = new Map<string, number>();
    for (const sound of sounds.values()) {
      const cost = measuredOf(measured, sound)?.voiceCost;
      if (cost !== undefined) voices.set(sound.id, cost);
    }
    return { voices, effects };
  },
);

/** What the patch on the desk costs. */
export const selectCost = createSelector(
  selectPatch,
  selectMeasuredCosts,
  selectPatterns,
  (patch, costs, patterns) => (patch ? patchCost(patch, costs, patterns) : null),
);
/** Sounds of the patch on the desk that could be shared. */
export const selectSharing = createSelector(selectPatch, selectMeasuredCosts, (patch, costs) =>
  patch ? sharingAdvice(patch, costs) : [],
);
