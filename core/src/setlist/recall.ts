import type { Cue } from '../model/show/cue.js';
import type { Patch } from '../model/patch/patch.js';

/** The patch as a cue plays it: the cue's levels and mutes in place of the patch's own. Unknown layers are passed over. */
export function withCue(patch: Patch, cue: Cue | null): Patch {
  if (!cue || cue.patchId !== patch.id) return patch;
  return {
    ...patch,
    layers: patch.layers.map((layer) => {
      const change = cue.balance[layer.id];
      return change
        ? { ...layer, level: change.level ?? layer.level, muted: change.muted ?? layer.muted }
        : layer;
    }),
  };
}

/** Seconds over which a cue arrives: its own, else the show's default. */
export function fadeSecondsOf(cue: Cue, defaultFadeSeconds: number): number {
  return cue.fadeSeconds ?? defaultFadeSeconds;
}
