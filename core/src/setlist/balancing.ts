import type { CueLevel } from '../model/show/cue.js';
import { EFFECT_NAMES } from '../model/patch/effects.js';
import type { Layer } from '../model/patch/layer.js';

/** Changes of a layer parted into what a cue's balance holds of it, and what belongs to the patch. */
export interface PartedChanges {
  ofCue: CueLevel;
  ofPatch: Partial<Layer>;
}

/**
 * Parts changes that were made to a layer as a cue has it: level, mute, sends and whether the lift is on are
 * the cue's, everything else is the patch's. `written` is the layer as the patch has it.
 */
export function partChanges(
  shown: Layer,
  written: Layer,
  { level, muted, sends, lift, ...ofPatch }: Partial<Layer>,
): PartedChanges {
  const ofCue: CueLevel = {};
  if (level !== undefined) ofCue.level = level;
  if (muted !== undefined) ofCue.muted = muted;
  const moved = sends ? EFFECT_NAMES.filter((name) => sends[name] !== shown.sends[name]) : [];
  if (sends && moved.length > 0)
    ofCue.sends = Object.fromEntries(moved.map((name) => [name, sends[name]]));
  if (lift && lift.on !== shown.lift.on) ofCue.lift = lift.on;
  if (!lift || lift.floor === written.lift.floor) return { ofCue, ofPatch };
  return { ofCue, ofPatch: { ...ofPatch, lift: { ...lift, on: written.lift.on } } };
}
