import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { lowestSounding } from '../touch/touch.js';
import { dbFromGain, LOUDEST_DB, SILENCE_DB } from '../units/decibels.js';
import { lufsOf, powerOf, type Lufs } from './bs1770.js';
import { responseOf, type Responses } from './plumb-line.js';
import { loudnessAt } from './response.js';

/** Velocity at which layers are compared, or the nearest at which one sounds about as it does at its best. */
export const BALANCE_VELOCITY = 80;
/** Share of its greatest gain that a layer has to have there: half its power. */
const ABOUT_BEST = Math.SQRT1_2;

/** What balancing would do to one layer. */
export interface Balanced {
  layerId: string;
  /** Level now, and as balanced, dB. */
  before: number;
  after: number;
  /** Loudness now, and as balanced, LUFS. */
  loudnessBefore: Lufs;
  loudnessAfter: Lufs;
  /** dB by which it misses what was wished for, because levels go no further; 0 for all others. */
  missing: number;
}

/**
 * Levels at which every layer is as loud as its place in the target relation says: `relation` holds dB above or below the
 * common loudness by layer id, 0 where it says nothing. The common loudness is such that the powers of all add up to what
 * they do now, so that the patch as a whole stays as loud; where a level would have to be beyond what levels can be, it is
 * held, and what is missing is told. Layers whose sound is not measured are left out.
 */
export function balance(
  patch: CompiledPatch,
  responses: Responses,
  relation: ReadonlyMap<string, number> = new Map(),
): Balanced[] {
  const measured = patch.layers.flatMap((layer) => {
    const own = ownLoudness(layer, responses);
    return own === null || layer.muted ? [] : [{ layer, own, wish: relation.get(layer.id) ?? 0 }];
  });
  const present = measured.reduce(
    (sum, { layer, own }) => sum + powerOf(own + layer.source.level),
    0,
  );
  const shares = measured.reduce((sum, { wish }) => sum + 10 ** (wish / 10), 0);
  const common = lufsOf(present / shares);
  return measured.map(({ layer, own, wish }) => {
    const exact = common + wish - own;
    const wished = Math.round(exact * 10) / 10;
    const after = Math.min(LOUDEST_DB, Math.max(SILENCE_DB, wished));
    return {
      layerId: layer.id,
      before: layer.source.level,
      after,
      loudnessBefore: own + layer.source.level,
      loudnessAfter: own + after,
      missing: wished - after,
    };
  });
}

/** Loudness of a layer at level 0 dB, its fades counted; null when its sound is not measured. */
function ownLoudness(layer: CompiledLayer, responses: Responses): Lufs | null {
  const response = responseOf(layer, responses);
  if (!response) return null;
  const velocity = comparedAt(layer);
  const gain = layer.velocityGain[velocity] * Math.max(...layer.keyGain);
  const loudness = loudnessAt(response, layer.touch[velocity]) + dbFromGain(gain);
  return Number.isFinite(loudness) ? loudness : null;
}

/** Of the velocities at which a layer is about as loud as its fades let it be, the one nearest to the usual one. */
function comparedAt({ velocityLow, velocityHigh, velocityGain, source }: CompiledLayer): number {
  const softest = Math.max(velocityLow, lowestSounding(source.touch));
  let most = 0;
  for (let v = softest; v <= velocityHigh; v++) most = Math.max(most, velocityGain[v]);
  let best = velocityHigh;
  let nearest = Infinity;
  for (let v = softest; v <= velocityHigh; v++) {
    const distance = Math.abs(v - BALANCE_VELOCITY);
    if (velocityGain[v] < most * ABOUT_BEST || distance >= nearest) continue;
    best = v;
    nearest = distance;
  }
  return best;
}
