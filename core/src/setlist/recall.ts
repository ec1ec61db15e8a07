import { movedAccompanist } from '../model/patch/band-moves.js';
import type { Cue } from '../model/show/cue.js';
import type { Layer } from '../model/patch/layer.js';
import type { Patch } from '../model/patch/patch.js';
import type { Song } from '../model/show/song.js';
import type { BeatsPerMinute, Seconds } from '../units/times.js';

/**
 * The patch as a cue plays it: the cue's levels, mutes, lifts, sends, switched treatments, choices and moved
 * accompanists in place of the patch's own.
 * Layers and treatments that are gone are passed over.
 */
export function withCue(patch: Patch, cue: Cue | null): Patch {
  if (!cue || cue.patchId !== patch.id) return patch;
  return {
    ...patch,
    layers: patch.layers.map((layer) => inCue(layer, cue)),
    treatments: patch.treatments.map((treatment) => {
      const on = cue.treatments[treatment.id];
      return on === undefined || on === treatment.on ? treatment : { ...treatment, on };
    }),
    choosers: patch.choosers.map((chooser) => {
      const chosen = cue.choices[chooser.id] as number | undefined;
      return chosen === undefined || chosen >= chooser.choices.length
        ? chooser
        : { ...chooser, chosen };
    }),
    accompanists: patch.accompanists.map((one) => movedAccompanist(one, cue.band[one.id])),
  };
}

function inCue(layer: Layer, { balance }: Cue): Layer {
  if (!(layer.id in balance)) return layer;
  const { level, muted, lift, sends } = balance[layer.id];
  return {
    ...layer,
    level: level ?? layer.level,
    muted: muted ?? layer.muted,
    lift: lift === undefined ? layer.lift : { ...layer.lift, on: lift },
    sends: sends ? { ...layer.sends, ...sends } : layer.sends,
  };
}

/** Seconds over which a cue arrives: its own, else the show's default. */
export function fadeSecondsOf(cue: Cue, defaultFadeSeconds: Seconds): Seconds {
  return cue.fadeSeconds ?? defaultFadeSeconds;
}

/** Tempo in a cue: its own, else the song's as it is played. */
export function tempoIn(song: Song, cue: Cue | null): BeatsPerMinute {
  return cue?.songId === song.id ? (cue.tempo ?? song.tempo) : song.tempo;
}
