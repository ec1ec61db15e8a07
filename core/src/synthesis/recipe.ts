import type { SoundCategory } from '../model/library/sound.js';
import type { Span } from '../range/range.js';
import type { PlayedAs } from './house-played.js';
import {
  addNoise,
  frequencyOf,
  loopLength,
  renderPartials,
  type NoiseBurst,
  type PartialTone,
} from './partials.js';
import { renderStroke, type KitStroke } from './strokes.js';
import type { RenderedZone } from './zone.js';

/** What a recipe is asked for: a key, at a strength. */
export interface AskedNote {
  key: number;
  /** Fundamental in Hz. */
  frequency: number;
  /** 0 = gentlest … 1 = strongest. */
  strength: number;
  /** Whole cycles that come nearest a frequency in Hz. */
  cycles: (frequency: number) => number;
}

/** What every house sound tells of itself. */
interface AnyRecipe extends PlayedAs {
  id: string;
  category: SoundCategory;
  tags: string[];
  natural: Span;
  sampleRate: number;
}

/** A house sound that follows the keys: the partials of any of its notes. */
export interface ToneRecipe extends AnyRecipe {
  /** Semitones between recorded roots. */
  spacing: number;
  /** Highest velocity of each strength, gentlest first; the last is 127. */
  strengths: number[];
  stereo: boolean;
  /** Seconds before the loop, and of the loop. */
  loopAfter: number;
  loopSeconds: number;
  /** The partials and the noise of one note. */
  partials: (request: AskedNote) => PartialTone[];
  noise?: (request: AskedNote) => NoiseBurst;
  /** Seconds to 1/e of what is left in the loop; Infinity for a sound that sustains. */
  ringing: (key: number) => number;
}

/** A house sound with another instrument on every key, each struck once: drums and the like. */
export interface KitRecipe extends AnyRecipe {
  /** Ascending; a piece answers up to the next one's key. */
  pieces: { key: number; name: string; stroke: KitStroke }[];
}

/** How a house sound is made. */
export type SoundRecipe = ToneRecipe | KitRecipe;

/** True for sounds with another instrument on every key. */
export function isKit(recipe: SoundRecipe): recipe is KitRecipe {
  return 'pieces' in recipe;
}

/** Everything that decides how one zone sounds. Equal plans give equal recordings, so a plan can be hashed. */
export type ZonePlan = TonePlan | StrokePlan;

interface AnyPlan {
  rootKey: number;
  keys: Span;
  velocities: Span;
  sampleRate: number;
}

/** A struck instrument that plays once to its end; `strength` runs from 0 to 1. */
export interface StrokePlan extends AnyPlan {
  stroke: KitStroke;
  strength: number;
}

/** A note with a loop. */
export interface TonePlan extends AnyPlan {
  stereo: boolean;
  loopStart: number;
  loopSamples: number;
  loopDecay: number;
  partials: PartialTone[];
  noise: NoiseBurst | null;
}

/** Raised when rendering, or what is measured of it, changes in a way that plans do not show. */
const RENDERER = 3;
/** Loudest sample that a zone is allowed, so that chords keep headroom. */
const CEILING = 0.7;
/** RMS of the loudest 300 ms of every zone. */
const LEVEL = 0.1;

/** The zones of a recipe, unrendered. */
export function planZones(recipe: SoundRecipe): ZonePlan[] {
  return isKit(recipe) ? planKit(recipe) : planTones(recipe);
}

/** Highest velocity of the soft strokes of a kit. */
const SOFT_STROKES = 78;

function planKit({ pieces, sampleRate }: KitRecipe): StrokePlan[] {
  return pieces.flatMap(({ key, stroke }, i) => {
    const keys = {
      low: i === 0 ? 0 : key,
      high: i === pieces.length - 1 ? 127 : pieces[i + 1].key - 1,
    };
    const common = { rootKey: key, keys, sampleRate, stroke };
    return [
      { ...common, velocities: { low: 1, high: SOFT_STROKES }, strength: 0.4 },
      { ...common, velocities: { low: SOFT_STROKES + 1, high: 127 }, strength: 1 },
    ];
  });
}

function planTones(recipe: ToneRecipe): TonePlan[] {
  const plans: TonePlan[] = [];
  const { low, high } = recipe.natural;
  const count = Math.max(1, Math.round((high - low + 1) / recipe.spacing));
  for (let i = 0; i < count; i++) {
    const from = low + Math.round((i * (high - low + 1)) / count);
    const to = low + Math.round(((i + 1) * (high - low + 1)) / count) - 1;
    const rootKey = Math.floor((from + to) / 2);
    const keys = { low: i === 0 ? 0 : from, high: i === count - 1 ? 127 : to };
    recipe.strengths.forEach((highest, s) =>
      plans.push(
        planZone(recipe, rootKey, keys, {
          velocities: { low: s === 0 ? 1 : recipe.strengths[s - 1] + 1, high: highest },
          strength: recipe.strengths.length === 1 ? 0.6 : s / (recipe.strengths.length - 1),
        }),
      ),
    );
  }
  return plans;
}

function planZone(
  recipe: ToneRecipe,
  rootKey: number,
  keys: Span,
  { velocities, strength }: { velocities: Span; strength: number },
): TonePlan {
  const { sampleRate } = recipe;
  const frequency = frequencyOf(rootKey);
  const loopSamples = loopLength(frequency, sampleRate, recipe.loopSeconds);
  const request: AskedNote = {
    key: rootKey,
    frequency,
    strength,
    cycles: (wanted) => Math.max(1, Math.round((wanted * loopSamples) / sampleRate)),
  };
  const ringing = recipe.ringing(rootKey);
  const nyquist = loopSamples / 2;
  return {
    rootKey,
    keys,
    velocities,
    sampleRate,
    stereo: recipe.stereo,
    loopStart: Math.round(recipe.loopAfter * sampleRate),
    loopSamples,
    loopDecay: Number.isFinite(ringing) ? (20 * Math.LOG10E) / ringing : 0,
    // The engine transposes up by a few semitones; keep what would fold back out of the recording.
    partials: recipe
      .partials(request)
      .filter((p) => p.cycles < nyquist * 0.8 && Math.abs(p.amplitude) > 1e-5),
    noise: recipe.noise?.(request) ?? null,
  };
}

/** Text from which a recipe's content hash is made: the same text means the same recordings. */
export function planText(plans: readonly ZonePlan[]): string {
  return `renderer ${RENDERER}\n${JSON.stringify(plans)}`;
}

/** Renders one zone and brings it to the common level. */
export function renderZone(plan: ZonePlan): RenderedZone {
  return 'stroke' in plan ? renderStruck(plan) : renderTone(plan);
}

function renderStruck({ stroke, strength, ...plan }: StrokePlan): RenderedZone {
  const samples = renderStroke(stroke, strength, plan.sampleRate);
  level(samples, samples, plan.sampleRate);
  return { ...plan, left: samples, right: samples, loopStart: -1, loopEnd: -1, loopDecay: 0 };
}

function renderTone(plan: TonePlan): RenderedZone {
  const [left, right] = renderPartials(plan.partials, plan);
  if (plan.noise) addNoise(left, right, plan.noise, plan.sampleRate, plan.loopStart);
  level(left, right, plan.sampleRate);
  return {
    rootKey: plan.rootKey,
    keys: plan.keys,
    velocities: plan.velocities,
    sampleRate: plan.sampleRate,
    left,
    right,
    loopStart: plan.loopStart,
    loopEnd: left.length,
    loopDecay: plan.loopDecay,
  };
}

function level(left: Float32Array, right: Float32Array, sampleRate: number): void {
  const window = Math.round(0.3 * sampleRate);
  let loudest = 0;
  let peak = 0;
  for (let from = 0; from < left.length; from += window) {
    let sum = 0;
    const to = Math.min(left.length, from + window);
    for (let i = from; i < to; i++) {
      sum += (left[i] * left[i] + right[i] * right[i]) / 2;
      peak = Math.max(peak, Math.abs(left[i]), Math.abs(right[i]));
    }
    loudest = Math.max(loudest, sum / window);
  }
  const gain = Math.min(LEVEL / Math.sqrt(loudest || 1), CEILING / (peak || 1));
  for (let i = 0; i < left.length; i++) left[i] *= gain;
  if (right !== left) for (let i = 0; i < right.length; i++) right[i] *= gain;
}
