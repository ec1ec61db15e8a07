import { layerLetter } from '../model/patch/patch.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import type { CompiledPatch } from './compile.js';
import { VERDICT } from './judge.js';
import { isHeard, trace, traceInWords, type PlayedNote } from './trace.js';

/**
 * Why a played note makes no sound, in one line: `Lower keys C4 sounds nothing: A is muted`. Of several layers the one that came
 * nearest to sounding says why. Null when something sounds.
 */
export function silenceInWords(
  patch: CompiledPatch | null,
  played: PlayedNote,
  middleC: NoteNaming,
  switched: (treatmentId: string) => boolean | null = () => null,
): string | null {
  const key = noteName(played.key, middleC);
  if (!patch) return `${key} sounds nothing: no patch is open`;
  const name = patch.rig.names.at(played.device) ?? 'What you play';
  const told = (why: string) => `${name} ${key} sounds nothing: ${why}`;
  if (patch.layers.length === 0) return told('this patch has no layers yet');
  const followed = trace(patch, played, switched);
  if (followed.layers.some(isHeard)) return null;
  const nearest = followed.layers.reduce((a, b) => (b.verdict > a.verdict ? b : a));
  const alike = followed.layers.filter(({ verdict }) => verdict === nearest.verdict);
  if (nearest.verdict === VERDICT.otherKeyboard) return told(`no layer listens to it`);
  if (nearest.verdict === VERDICT.otherChannel && alike.length > 1)
    return told(`no layer listens to channel ${played.channel}`);
  const words = traceInWords(nearest, followed, patch, middleC);
  return told(`${layerLetter(nearest.layer.index)} ${verb(nearest.verdict)}${words}`);
}

/** Words between a layer and what is traced of it, where that is no sentence of its own. */
function verb(verdict: number): string {
  if (verdict === VERDICT.muted) return 'is ';
  if (verdict === VERDICT.belowKeys || verdict === VERDICT.aboveKeys)
    return 'lies elsewhere, the key is ';
  if (verdict === VERDICT.softer || verdict === VERDICT.harder) return 'is there, but it was ';
  return verdict === VERDICT.otherChannel || verdict === VERDICT.outsideMidi ? '' : 'waits: ';
}
