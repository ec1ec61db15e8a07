import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { lowestSounding } from '../touch/touch.js';
import { LOUDEST_DB, SILENCE_DB } from '../units/decibels.js';
import { lufsOf, powerOf, type Lufs } from './bs1770.js';
import { responseOf, type Responses } from './plumb-line.js';
import { loudnessAt } from './response.js';

/** Velocity at which layers are compared, or the nearest at which one sounds. */
export const BALANCE_VELOCITY = 80;

/** What balancing would do to one layer. */
export interface Balanced {
  layerId: string;
  /** Level now, and as balanced, dB. */
  before: number;
  after: number;
  /** Loudness now, and as balanced, LUFS. */
  loudnessBefore: Lufs;
  loudnessAfter: Lufs;
}

/**
 * Levels at which every layer is as loud as its place in the target relation says: `relation` holds dB above or below the
 * common loudness by layer id, 0 where it says nothing. The common loudness is such that the powers of all add up to what
 * they do now, so that the patch as a whole stays as loud. Layers whose sound is not measured are left out.
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
  if (measured.length === 0) return [];
  const present = measured.reduce(
    (sum, { layer, own }) => sum + powerOf(own + layer.source.level),
    0,
  );
  const shares = measured.reduce((sum, { wish }) => sum + 10 ** (wish / 10), 0);
  const common = lufsOf(present / shares);
  return measured.map(({ layer, own, wish }) => {
    const exact = common + wish - own;
    const after = Math.min(LOUDEST_DB, Math.max(SILENCE_DB, Math.round(exact * 10) / 10));
    return {
      layerId: layer.id,
      before: layer.source.level,
      after,
      loudnessBefore: own + layer.source.level,
      loudnessAfter: own + after,
    };
  });
}

/** Loudness of a layer at level 0 dB in the middle of what it answers; null when its sound is not measured. */
function ownLoudness(layer: CompiledLayer, responses: Responses): Lufs | null {
  const response = responseOf(layer, responses);
  if (!response) return null;
  const softest = Math.max(layer.velocityLow, lowestSounding(layer.source.touch));
  const velocity = Math.min(layer.velocityHigh, Math.max(softest, BALANCE_VELOCITY));
  const loudness = loudnessAt(response, layer.touch[velocity]);
  return Number.isFinite(loudness) ? loudness : null;
}
