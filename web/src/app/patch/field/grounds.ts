import type { Coverage } from '@pentachord/core/coverage';
import { layerLetter } from '@pentachord/core/model';
import { boxOf, type Box, type FieldScale } from '../../ui/field/field-geometry';

/** Layers whose hatching may lie on one ground: more of them would be a grey weave. */
const MOST_HATCHES = 2;
/** Layers from which on a ground is named by their letters. */
const NAMED_FROM = 3;

/** Part of the field on which the same layers sound, as it is drawn. */
export interface DrawnGround {
  id: string;
  box: Box;
  /** Indices of the layers whose colour and hatching it bears. */
  hatched: readonly number[];
  /** Letters of all layers that share it, where they are too many to be told by their hatching; else empty. */
  letters: string;
}

/**
 * The grounds of a field as they are drawn. The layers of `plain` are drawn by themselves over all others, so that of the
 * others one fewer is hatched where they lie.
 */
export function groundsOf(
  scale: FieldScale,
  covered: Coverage,
  plain: ReadonlySet<number>,
): DrawnGround[] {
  return covered.cells.flatMap((cell) => {
    const box = cell.layers.length > 0 ? boxOf(scale, cell) : null;
    if (!box) return [];
    const others = cell.layers.filter((index) => !plain.has(index));
    const most = others.length < cell.layers.length ? MOST_HATCHES - 1 : MOST_HATCHES;
    return {
      id: `${cell.keys.low} ${cell.velocities.low}`,
      box,
      hatched: others.slice(0, most),
      letters: cell.layers.length >= NAMED_FROM ? cell.layers.map(layerLetter).join(' ') : '',
    };
  });
}
