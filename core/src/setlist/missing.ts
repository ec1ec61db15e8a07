import type { Sound } from '../model/library/sound.js';
import type { Patch } from '../model/patch/patch.js';
import { deviceAtPlace, type Device } from '../model/rig/rig.js';
import type { Cue } from '../model/show/cue.js';
import type { Step } from './running-order.js';

/** What there is to play a show with. */
export interface ThereIs {
  patches: Readonly<Record<string, Patch>>;
  cues: Readonly<Record<string, Cue>>;
  sounds: Readonly<Record<string, Sound>>;
  devices: readonly Device[];
}

/** What the steps of a show need and is not there, each once, in a player's words. */
export function missingIn(
  steps: readonly Step[],
  { patches, cues, sounds, devices }: ThereIs,
): string[] {
  const missing = new Set<string>();
  const songs = new Set(steps.map(({ songId }) => songId));
  for (const { cueId } of steps) {
    const cue = cueId === null ? undefined : cues[cueId];
    if (cue && !(cue.patchId in patches)) missing.add(`the patch of ${cue.name}`);
  }
  for (const patch of Object.values(patches)) {
    if (!songs.has(patch.songId)) continue;
    for (const { librarySoundId } of patch.sounds) {
      if (!(librarySoundId in sounds)) {
        missing.add(`a sound of ${patch.name}`);
        continue;
      }
      const { name, origin } = sounds[librarySoundId];
      if (origin.kind === 'outside' && !deviceAtPlace(devices, origin.place))
        missing.add(`the module that plays ${name}`);
    }
  }
  return [...missing];
}
