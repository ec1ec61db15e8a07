import type { LayerMark } from '../../ui/layer-colours';

/** The tile of a layer's hatching. Upright lines are drawn upright: a tile turned by 90° is not repeated everywhere. */
export function hatching({ hatch: { angle, gap, period } }: LayerMark) {
  return angle === 90
    ? { width: gap, height: period, line: `M0.5 0V${period}`, transform: null }
    : { width: period, height: gap, line: `M0 0.5H${period}`, transform: `rotate(${angle})` };
}
