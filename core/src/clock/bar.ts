import type { Metre } from '../model/show/song.js';
import type { Beats } from '../units/times.js';

/** Beats of a bar, in quarters. */
export function barBeats({ beats, unit }: Metre): Beats {
  return (beats * 4) / unit;
}

/** Where in its bar a beat lies: counted in the metre’s own unit from 0, so that 6/8 counts six. */
export function countInBar(beats: Beats, { beats: count, unit }: Metre): number {
  const counted = Math.floor((beats * unit) / 4 + 1e-9);
  return ((counted % count) + count) % count;
}
