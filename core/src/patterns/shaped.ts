import {
  PLAIN_SHAPE,
  type Pattern,
  type PatternNote,
  type PatternShape,
  type Quantise,
} from '../model/library/pattern.js';
import type { Beats } from '../units/times.js';
import { inRound, nearestStep } from './grid.js';

/** As much of a pattern as shaping needs: its length and its notes, in quarters. */
export type Shapeable = Pick<Pattern, 'length' | 'notes'>;

/** The grid that swings where nothing was quantised: eighths. */
const USUAL_SWING: Beats = 1 / 2;

/**
 * The notes of a pattern as they are played, in the order in which they begin. In this order: thinned, quantised, swung, turned
 * round, sped up, transposed; their weight besides. They begin within {@link shapedLength}; keys may lie beyond 0–127 and are
 * for whoever transposes further to judge.
 */
export function shaped(pattern: Shapeable, settings: Partial<PatternShape> = {}): PatternNote[] {
  const { transpose, weight, thin, quantise, swing, direction, rate } = {
    ...PLAIN_SHAPE,
    ...settings,
  };
  const { length } = pattern;
  let notes: readonly PatternNote[] = pattern.notes;
  if (thin !== null) notes = thinned(notes, thin, length);
  if (quantise) notes = quantised(notes, quantise, length);
  if (swing !== 50) notes = swung(notes, swing, quantise?.step ?? USUAL_SWING, length);
  const forward = notes;
  if (direction !== 'forward') notes = backward(notes, length);
  if (direction === 'thereAndBack')
    notes = [...forward, ...notes.map((note) => ({ ...note, beat: note.beat + length }))];
  const mean = meanVelocity(pattern.notes);
  return notes
    .map(({ beat, length: lasts, key, velocity }) => ({
      beat: beat / rate,
      length: lasts / rate,
      key: key + transpose,
      velocity: weighed(velocity, weight, mean),
    }))
    .sort((a, b) => a.beat - b.beat || a.key - b.key);
}

/** Beats from one round of a shaped pattern to the next. */
export function shapedLength(
  { length }: Pick<Pattern, 'length'>,
  { direction, rate }: Pick<PatternShape, 'direction' | 'rate'>,
): Beats {
  return (direction === 'thereAndBack' ? 2 * length : length) / rate;
}

/** The notes moved to a grid by their strength; each keeps its end, or its length where that lies behind the grid. */
export function quantised(
  notes: readonly PatternNote[],
  { step, strength }: Quantise,
  length: Beats,
): PatternNote[] {
  return notes.map((note) => {
    const by = strength * (nearestStep(note.beat, step, length) - note.beat);
    const rest = note.length - by;
    return {
      ...note,
      beat: inRound(note.beat + by, length),
      length: rest > 1e-9 ? rest : note.length,
    };
  });
}

/** Of the notes of one key that lie nearest to one step of a grid, the one that is nearest to it, the stronger on a tie. */
function thinned(notes: readonly PatternNote[], step: Beats, length: Beats): PatternNote[] {
  const kept = new Map<string, { note: PatternNote; away: number }>();
  for (const note of notes) {
    const nearest = nearestStep(note.beat, step, length);
    const away = Math.abs(note.beat - nearest);
    const place = `${note.key} ${Math.round(inRound(nearest, length) * 1e6)}`;
    const known = kept.get(place);
    const isNearer = !known || away < known.away - 1e-9;
    if (isNearer || (away < known.away + 1e-9 && note.velocity > known.note.velocity))
      kept.set(place, { note, away });
  }
  return [...kept.values()].map(({ note }) => note);
}

/** The second step of each pair begins later, and what lies between goes along; a pair that is cut by the end stays even. */
function swung(
  notes: readonly PatternNote[],
  percent: number,
  step: Beats,
  length: Beats,
): PatternNote[] {
  const second = (2 * percent) / 100;
  const bent = (beat: Beats) => {
    const round = Math.floor(beat / length + 1e-9) * length;
    const within = beat - round;
    const pair = Math.floor(within / (2 * step) + 1e-9) * 2 * step;
    if (pair + 2 * step > length + 1e-9) return beat;
    const steps = (within - pair) / step;
    return round + pair + step * (steps < 1 ? steps * second : second + (steps - 1) * (2 - second));
  };
  return notes.map((note) => {
    const beat = bent(note.beat);
    return { ...note, beat: inRound(beat, length), length: bent(note.beat + note.length) - beat };
  });
}

function backward(notes: readonly PatternNote[], length: Beats): PatternNote[] {
  return notes.map((note) => ({
    ...note,
    beat: inRound(length - note.beat - note.length, length),
  }));
}

function meanVelocity(notes: readonly PatternNote[]): number {
  return notes.reduce((sum, { velocity }) => sum + velocity, 0) / Math.max(1, notes.length);
}

/** Velocities are drawn together around their mean, and moved. */
function weighed(velocity: number, weight: number, mean: number): number {
  const moved = mean + (velocity - mean) * (1 - Math.abs(weight) / 2) + 40 * weight;
  return Math.min(127, Math.max(1, Math.round(moved)));
}
