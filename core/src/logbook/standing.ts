import type { StepTaken, Take, TempoTaken } from '../model/show/take.js';
import { beatsOfSeconds, type Beats, type Seconds } from '../units/times.js';
import { barBeats, countInBar } from '../clock/bar.js';
import type { Stroke } from './came-in.js';

/** How things stood at a moment of a take. */
export interface Standing {
  step: StepTaken | null;
  tempo: TempoTaken | null;
  /** Bar and beat, counted from 1; null while it counts in, and where no tempo is known. */
  bar: { bar: number; beat: number } | null;
  /** Keys that were held, from below. */
  held: Stroke[];
}

/** The last of a list in order of time that is not after a moment; null for none. */
export function lastBy<T extends { seconds: Seconds }>(list: readonly T[], at: Seconds): T | null {
  return list.findLast(({ seconds }) => seconds <= at + 1e-9) ?? null;
}

/** How things stood at a moment. */
export function standingAt(
  { steps, tempos }: Take,
  strokes: readonly Stroke[],
  at: Seconds,
): Standing {
  const tempo = lastBy(tempos, at);
  return {
    ...{ step: lastBy(steps, at), tempo, bar: tempo && barAt(tempo, at) },
    held: strokes
      .filter(({ from, until }) => from <= at && at < until)
      .sort((one, other) => one.sender - other.sender || one.key - other.key),
  };
}

function barAt(tempo: TempoTaken, at: Seconds): Standing['bar'] {
  const beat: Beats = tempo.beat + beatsOfSeconds(at - tempo.seconds, tempo.tempo);
  if (beat < -1e-9) return null;
  const bar = Math.floor(beat / barBeats(tempo.metre) + 1e-9) + 1;
  return { bar, beat: countInBar(beat, tempo.metre) + 1 };
}
