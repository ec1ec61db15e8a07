import { newLayer, type Layer } from '../../model/patch/layer.js';
import { newPatch, type Patch, type PatchSound } from '../../model/patch/patch.js';

/** Something to be tried out on every keyboard, in place of the patch: a sound, or a whole patch. */
export type Audition =
  | {
      sound: PatchSound;
      /** Semitones. */
      transpose: number;
    }
  | { patch: Patch };

/** The id of whatever patch is tried out. */
export const AUDITION_ID = 'audition';

/** What is tried out, as a patch on every keyboard. */
export function patchOfAudition(audition: Audition): Patch {
  if ('patch' in audition) return onEveryKeyboard(audition.patch);
  const { sound, transpose } = audition;
  const layer = { ...newLayer('audition', 'Audition', sound.id), transpose };
  return { ...newPatch(AUDITION_ID, AUDITION_ID, 0, 'Audition'), sounds: [sound], layers: [layer] };
}

const everywhere = new WeakMap<Patch, Patch>();

/** The patch with every layer on every keyboard, whatever it sends; the same patch gives the same. */
function onEveryKeyboard(patch: Patch): Patch {
  let played = everywhere.get(patch);
  if (!played) {
    const layers = patch.layers.map((layer): Layer => ({
      ...layer,
      keyboards: 'any',
      channel: 'any',
    }));
    played = { ...patch, id: AUDITION_ID, layers };
    everywhere.set(patch, played);
  }
  return played;
}
