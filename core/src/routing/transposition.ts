import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { intersection, type Span } from '../range/range.js';
import type { CompiledLayer } from './compile.js';

/** What adds up between a key of a keyboard and the note that sounds, in semitones. */
export interface TranspositionSum {
  /** The keyboard’s own octave shift. */
  keyboard: number;
  /** From the fingered to the sounding key of the song, if the layer follows it. */
  song: number;
  /** The layer’s own. */
  layer: number;
}

/** The sum in words, with what one key gives: `song −1, layer +12: +11 in all; C4 sounds B4`. */
export function transpositionInWords(
  sum: TranspositionSum,
  key: number,
  middleC: NoteNaming,
): string {
  const total = sum.keyboard + sum.song + sum.layer;
  const parts = [
    sum.keyboard !== 0 ? `keyboard ${signed(sum.keyboard)}` : '',
    sum.song !== 0 ? `song ${signed(sum.song)}` : '',
    `layer ${signed(sum.layer)}`,
  ].filter(Boolean);
  const sounding = key + total;
  const result =
    sounding < 0 || sounding > 127 ? 'nothing, it lies outside MIDI' : noteName(sounding, middleC);
  return `${parts.join(', ')}: ${signed(total)} in all; ${noteName(key, middleC)} sounds ${result}`;
}

/** What each of some keys sounds on a layer, by key as the layers hear it; keys that it does not answer are left out. */
export function soundingByKey(
  { keyLow, keyHigh, shift }: Pick<CompiledLayer, 'keyLow' | 'keyHigh' | 'shift'>,
  keys: Span,
): ReadonlyMap<number, number> {
  const sounding = new Map<number, number>();
  const played = intersection({ low: keyLow, high: keyHigh }, keys);
  const heard = played && intersection(played, { low: -shift, high: 127 - shift });
  if (heard) for (let key = heard.low; key <= heard.high; key++) sounding.set(key, key + shift);
  return sounding;
}

/** A distance in words: `an octave down`, `2 octaves up`, `1 semitone down`. */
export function semitonesInWords(semitones: number): string {
  const direction = semitones > 0 ? 'up' : 'down';
  const size = Math.abs(semitones);
  if (size === 12) return `an octave ${direction}`;
  if (size % 12 === 0) return `${size / 12} octaves ${direction}`;
  return `${size} ${size === 1 ? 'semitone' : 'semitones'} ${direction}`;
}

function signed(semitones: number): string {
  return semitones > 0 ? `+${semitones}` : String(semitones).replace('-', '−');
}
