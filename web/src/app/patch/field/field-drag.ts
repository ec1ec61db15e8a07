import type { SplitSide } from '@pentachord/core/coverage';
import type { Layer } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { withRangePart, type Axis, type Range } from '@pentachord/core/range';
import type { FieldScale } from '../../ui/field/field-geometry';
import { AXES, valueInWords, valueUnder, type AxisPart, type Point } from './handles';

/** A change of a layer's keys or velocities made on the field. */
export interface FieldChange {
  layerId: string;
  changes: { keys?: Range; velocities?: Range };
  gesture: string;
}

/** A split taken along by one of its edges. */
export interface SplitMove {
  layerId: string;
  axis: Axis;
  side: SplitSide;
  /** Steps. */
  by: number;
  gesture: string;
}

/** What came of moving the hand. */
export type Dragged = { change: FieldChange } | { split: SplitMove } | null;

/** One movement of the hand that holds an edge, a corner or a fade. */
export class FieldDrag {
  /**
   * @param parts what is held: one line, or the two of a corner
   * @param off from the line to the hand, which rarely takes hold of it in the very middle
   * @param split the neighbours of the line come along
   */
  constructor(
    private parts: readonly AxisPart[],
    private readonly gesture: string,
    private readonly off: Point,
    private readonly split: boolean,
  ) {}

  /** The hand moved to a point. */
  move(scale: FieldScale, layer: Layer, hand: Point): Dragged {
    const point = this.heldPoint(hand);
    const [held] = this.parts;
    const { axis, part } = held;
    if (this.split && (part === 'low' || part === 'high')) {
      const by = valueUnder(scale, point, held, layer[axis]) - layer[axis][part];
      const { gesture } = this;
      return by === 0 ? null : { split: { layerId: layer.id, axis, side: part, by, gesture } };
    }
    const changes: FieldChange['changes'] = {};
    // Crossing its partner turns one edge into the other, so that the hand keeps hold of it.
    this.parts = this.parts.map(({ axis, part }): AxisPart => {
      const before = changes[axis] ?? layer[axis];
      const value = valueUnder(scale, point, { axis, part }, before);
      changes[axis] = withRangePart(before, part, value, lowestOn(axis));
      if (part === 'low' && value > before.high) return { axis, part: 'high' };
      if (part === 'high' && value < before.low) return { axis, part: 'low' };
      return { axis, part };
    });
    return changed(layer, changes, this.gesture);
  }

  /** The value under the hand in words; the range is asked as it will be after the change. */
  words(scale: FieldScale, layer: Layer, hand: Point, middleC: NoteNaming): string {
    const point = this.heldPoint(hand);
    return this.parts
      .map((held) => {
        const { axis, part } = held;
        const value = valueUnder(scale, point, held, layer[axis]);
        const moved = withRangePart(layer[axis], part, value, lowestOn(axis));
        return valueInWords(held, moved[part], middleC);
      })
      .join(' · ');
  }

  private heldPoint({ x, y }: Point): Point {
    return { x: x - this.off.x, y: y - this.off.y };
  }
}

/** A part of a range moved to a value by the keyboard. */
export function nudged(
  layer: Layer,
  { axis, part }: AxisPart,
  value: number,
  gesture: string,
): Dragged {
  const range = withRangePart(layer[axis], part, value, lowestOn(axis));
  return changed(layer, { [axis]: range }, gesture);
}

function changed(layer: Layer, changes: FieldChange['changes'], gesture: string): Dragged {
  const real: FieldChange['changes'] = {};
  for (const axis of AXES) {
    const range = changes[axis];
    if (range && JSON.stringify(layer[axis]) !== JSON.stringify(range)) real[axis] = range;
  }
  if (!real.keys && !real.velocities) return null;
  return { change: { layerId: layer.id, changes: real, gesture } };
}

function lowestOn(axis: Axis): 0 | 1 {
  return axis === 'keys' ? 0 : 1;
}
