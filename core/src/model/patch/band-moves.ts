import { GRID_STEPS } from '../library/pattern-limits.js';
import { BAND_SETTINGS, type BandMoves, type BandSetting } from './band-settings.js';
import type { Accompanist, PlacedPattern } from './accompanist.js';

/** Grid to which notes are quantised where a pattern’s place does not say: sixteenths. */
const USUAL_STEP = 1 / 4;

/** A setting where it can stand: within its way, on one of its steps. */
export function settledAt(setting: BandSetting, value: number): number {
  const { min, max, step } = BAND_SETTINGS[setting];
  return Math.max(min, Math.min(max, Number((Math.round(value / step) * step).toFixed(6))));
}

/** Where a setting stands in an accompanist and one of its patterns as they are written. */
export function writtenSetting(
  setting: BandSetting,
  accompanist: Pick<Accompanist, 'muted'>,
  placed: PlacedPattern | undefined,
): number {
  if (setting === 'muted') return accompanist.muted ? 1 : 0;
  if (setting === 'turned') return movesOf(accompanist)?.moves.turned ?? 0;
  if (!placed) return 0;
  const { shape } = placed;
  switch (setting) {
    case 'quantise':
      return shape.quantise?.strength ?? 0;
    case 'thin':
      return shape.thin === null ? 0 : GRID_STEPS.length - nearestStep(shape.thin);
    case 'steps':
      return placed.steps;
    case 'length':
      return placed.length ?? 0;
    case 'rate':
      return Math.log2(shape.rate);
    default:
      return shape[setting];
  }
}

function nearestStep(step: number): number {
  const apart = GRID_STEPS.map((one) => Math.abs(one - step));
  return apart.indexOf(Math.min(...apart));
}

const RATES = [0.5, 1, 2] as const;

/** A placed pattern with settings where they are put. */
function movedPlaced(placed: PlacedPattern, moves: BandMoves): PlacedPattern {
  const { shape } = placed;
  const { quantise, thin, rate, turned, length } = moves;
  const step = shape.quantise?.step ?? USUAL_STEP;
  return {
    ...placed,
    steps: moves.steps ?? placed.steps,
    length: length === undefined ? placed.length : length === 0 ? null : length,
    shape: {
      ...shape,
      weight: moves.weight ?? shape.weight,
      swing: moves.swing ?? shape.swing,
      transpose: moves.transpose ?? shape.transpose,
      quantise: quantise === undefined ? shape.quantise : { step, strength: quantise },
      thin: thin === undefined ? shape.thin : thin === 0 ? null : (GRID_STEPS.at(-thin) ?? null),
      rate: rate === undefined ? shape.rate : RATES[rate + 1],
      direction: turned === 1 ? turnedOver(shape.direction) : shape.direction,
    },
  };
}

function turnedOver(direction: PlacedPattern['shape']['direction']) {
  if (direction === 'thereAndBack') return direction;
  return direction === 'forward' ? 'backward' : 'forward';
}

/** Ways of one accompanist that are remembered. */
const MOST_WAYS = 32;
const known = new WeakMap<Accompanist, Map<string, Accompanist>>();

/** What each moved accompanist was made of, and how. */
const origins = new WeakMap<object, { origin: Accompanist; moves: BandMoves }>();

function movesOf(accompanist: object): { origin: Accompanist; moves: BandMoves } | undefined {
  return origins.get(accompanist);
}

/** An accompanist with settings where they are put; asked again for the same it gives the same. */
export function movedAccompanist(
  accompanist: Accompanist,
  moves: BandMoves | undefined,
): Accompanist {
  if (!moves || Object.keys(moves).length === 0) return accompanist;
  // A direction that was turned over already is not turned back by being turned over once more.
  const before = movesOf(accompanist);
  if (before) return movedAccompanist(before.origin, { ...before.moves, ...moves });
  const ways = known.get(accompanist) ?? new Map<string, Accompanist>();
  known.set(accompanist, ways);
  const key = JSON.stringify(Object.entries(moves).sort());
  const there = ways.get(key);
  if (there) return there;
  const made: Accompanist = {
    ...accompanist,
    muted: moves.muted === undefined ? accompanist.muted : moves.muted === 1,
    patterns: accompanist.patterns.map((placed) => movedPlaced(placed, moves)),
  };
  // A knob that is swept leaves a way at every place.
  if (ways.size >= MOST_WAYS) ways.clear();
  ways.set(key, made);
  origins.set(made, { origin: accompanist, moves });
  return made;
}
