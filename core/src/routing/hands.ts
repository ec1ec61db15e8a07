import { heardChannel, type Keyboard } from '../model/rig/rig.js';
import { TREATMENT_NAMES } from '../model/patch/treatment.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { intersection, type Span } from '../range/range.js';
import { lowestSounding } from '../touch/touch.js';
import type { CompiledLayer, CompiledPatch } from './compile.js';
import { hears } from './hearing.js';
import { semitonesInWords } from './transposition.js';

/** A layer as a player meets it on one keyboard: where it lies, and what there is to know about it in a few words. */
export interface UnderHand {
  layer: CompiledLayer;
  /** The keys of the keyboard that it answers. */
  keys: Span;
  /** Such as “when you dig in · sounds an octave down”; empty for a layer that is simply there. */
  words: string;
  /** True for one that a cue or the patch has muted: it lies there and is not heard. */
  muted: boolean;
}

/** Velocity from which, and up to which, a layer counts as one for soft or for strong playing. */
const STRONG_FROM = 50;
const SOFT_UP_TO = 110;

/** What lies under the hands on one keyboard, in the order of the layers. Muted ones are told as such. */
export function underHands(
  patch: CompiledPatch,
  keyboard: Keyboard,
  middleC: NoteNaming,
): UnderHand[] {
  const device = patch.rig.ids.indexOf(keyboard.id);
  if (device < 0) return [];
  const shift = keyboard.octaveShift * 12;
  const ground = { low: keyboard.lowestKey + shift, high: keyboard.highestKey + shift };
  const found: UnderHand[] = [];
  for (const layer of patch.layers) {
    if (!hears(layer, device, heardChannel(keyboard)) || layer.soloedOut) continue;
    const keys = intersection({ low: layer.keyLow, high: layer.keyHigh }, ground);
    if (!keys || startsOnly(patch, device, keys)) continue;
    const muted = layer.muted || !layer.isChosen;
    const why = layer.muted ? 'muted' : 'not picked';
    const words = muted ? why : layerInWords(layer, keys, ground, middleC);
    found.push({ layer, keys, words, muted });
  }
  return found;
}

/** Whether each of some keys starts something of the band, so that no hand plays them. */
function startsOnly({ band }: CompiledPatch, device: number, { low, high }: Span): boolean {
  for (let key = low; key <= high; key++)
    if (band.triggerAt[device * 128 + key] === 0) return false;
  return true;
}

function layerInWords(layer: CompiledLayer, keys: Span, ground: Span, middleC: NoteNaming): string {
  const { source } = layer;
  const words: string[] = [];
  const softest = Math.max(layer.velocityLow, lowestSounding(source.touch));
  if (softest >= STRONG_FROM && layer.velocityHigh === 127) words.push('when you dig in');
  else if (softest <= 1 && layer.velocityHigh <= SOFT_UP_TO) words.push('when you play softly');
  else if (softest > 1 || layer.velocityHigh < 127)
    words.push(`at velocities ${softest}–${layer.velocityHigh}`);
  if (source.keys.fadeIn > 1 && layer.keyLow > ground.low)
    words.push(`swells in from ${noteName(keys.low, middleC)}`);
  if (source.keys.fadeOut > 1 && layer.keyHigh < ground.high)
    words.push(`fades out to ${noteName(keys.high, middleC)}`);
  // The song's own transposition is told once, for all.
  if (source.transpose !== 0) words.push(`sounds ${semitonesInWords(source.transpose)}`);
  for (const treatment of layer.treatments)
    if (treatment.on)
      words.push(
        treatment.kind === 'doubling'
          ? `doubled ${semitonesInWords(treatment.octaves * 12)}`
          : TREATMENT_NAMES[treatment.kind].toLowerCase(),
      );
  return words.join(' · ');
}
