import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import {
  keysInWords,
  type Coverage,
  type Remark,
  type RemarkKind,
  type SplitSide,
} from '@pentachord/core/coverage';
import { layerLetter, type Layer } from '@pentachord/core/model';
import { noteName, type MiddleC } from '@pentachord/core/pitch';
import { withRangePart, type Range, type RangePart } from '@pentachord/core/range';
import { eachFrame } from '../../live/frames';
import { layerMark, type LayerMark } from '../../ui/layer-colours';
import { Calm } from '../calm';
import { DYNAMICS, dynamicOf } from './dynamics';
import {
  boxOf,
  contours,
  keyBoundaryAt,
  keyUnder,
  placeLabels,
  velocityBoundaryAt,
  xOfKey,
  yOfVelocity,
  type Box,
  type FieldScale,
} from './field-geometry';
import { Territories } from './territories';

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

/** A note to be marked on the field. */
export interface FieldMark {
  key: number;
  velocity: number;
}

type Axis = 'keys' | 'velocities';

/** A line that can be taken hold of. */
interface Handle {
  id: string;
  axis: Axis;
  part: RangePart;
  /** Where its hit area lies. */
  hit: Box;
  line: { x1: number; y1: number; x2: number; y2: number };
  fade: boolean;
  value: number;
  min: number;
  max: number;
  label: string;
  text: string;
}

/** Two edges that meet. */
interface Corner {
  id: string;
  x: number;
  y: number;
  keyPart: 'low' | 'high';
  velocityPart: 'low' | 'high';
}

const HIT = 12;
const PART_WORDS: Record<Axis, Record<RangePart, string>> = {
  keys: {
    low: 'lowest key',
    high: 'highest key',
    fadeIn: 'fade in, keys',
    fadeOut: 'fade out, keys',
  },
  velocities: {
    low: 'softest',
    high: 'hardest',
    fadeIn: 'fade in, strengths',
    fadeOut: 'fade out, strengths',
  },
};

/** What a remark is called on the field, where there is little room. */
const REMARK_TAGS: Partial<Record<RemarkKind, string>> = {
  beyondKeyboard: 'beyond the keys',
  sameSoundTwice: 'twice',
  outsideNaturalRange: 'out of its range',
  outsideMidi: 'outside MIDI',
  dip: 'dip',
  leap: 'leap',
  unbalancedSplit: 'unbalanced',
};

/** The tile of a layer's hatching. Upright lines are drawn upright: a tile turned by 90° is not repeated everywhere. */
function hatching({ hatch: { angle, gap, period } }: LayerMark) {
  return angle === 90
    ? { width: gap, height: period, line: `M0.5 0V${period}`, transform: null }
    : { width: period, height: gap, line: `M0 0.5H${period}`, transform: `rotate(${angle})` };
}

/**
 * The map of a patch: keys east, velocity north. Layers are territories with hatching, fades contour lines, silent ground
 * is left uncharted. Edges, corners and fades of the selected layer can be dragged, or moved with the arrow keys.
 */
@Component({
  selector: 'pc-field',
  imports: [Territories],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './field.html',
  styleUrl: './field.scss',
})
export class Field {
  readonly layers = input.required<readonly Layer[]>();
  /** Ids of the layers that listen to the keyboard shown; the others are not drawn. */
  readonly present = input.required<ReadonlySet<string>>();
  readonly coverage = input.required<Coverage>();
  readonly selected = input<string | null>(null);
  readonly middleC = input<MiddleC>(4);
  /** The last note played, if it came from the keyboard shown; asked once a frame. */
  readonly mark = input<() => FieldMark | null>(() => null);
  /** What was noticed on this keyboard, each with its place. */
  readonly remarks = input<readonly Remark[]>([]);
  /** Id of the remark whose place is to be shown. */
  readonly pointed = input<string | null>(null);
  /** Told when the hand takes hold of an edge and lets it go. */
  readonly calm = input(new Calm());
  readonly layerSelected = output<string | null>();
  readonly changed = output<FieldChange>();
  /** An edge was moved with Shift held: its neighbours come along. */
  readonly splitMoved = output<SplitMove>();
  readonly remarkChosen = output<Remark>();
  /** The key under the hand, null when the hand is elsewhere. */
  readonly hovered = output<number | null>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly size = signal({ width: 900, height: 290 });
  protected readonly dynamics = DYNAMICS;
  protected readonly readout = signal<{ x: number; y: number; text: string } | null>(null);
  protected readonly note = signal<FieldMark | null>(null);
  private drag: {
    parts: { axis: Axis; part: RangePart }[];
    gesture: string;
    off: { x: number; y: number };
    /** Neighbours come along. */
    split: boolean;
  } | null = null;

  protected readonly scale = computed<FieldScale>(() => ({
    ground: this.coverage().ground,
    ...this.size(),
  }));

  private readonly boxes = computed(() => {
    const scale = this.scale();
    return this.layers().map((layer) =>
      this.present().has(layer.id) ? boxOf(scale, layer) : null,
    );
  });
  protected readonly territories = computed(() => {
    const scale = this.scale();
    const selected = this.selected();
    const boxes = this.boxes();
    return this.layers().flatMap((layer, index) => {
      const box = boxes[index];
      if (!box) return [];
      return {
        id: layer.id,
        mark: layerMark(index),
        hatch: hatching(layerMark(index)),
        box,
        selected: layer.id === selected,
        silenced: layer.muted,
        keyLines: contours(layer.keys).map((at) => xOfKey(scale, at)),
        velocityLines: contours(layer.velocities).map((at) => yOfVelocity(scale, at)),
      };
    });
  });

  private readonly placed = computed(() => {
    const boxes = this.boxes();
    const spots = placeLabels(boxes, {
      width: (index) => 40 + this.layers()[index].name.length * 7.6,
      height: 24,
    });
    return this.layers().flatMap((layer, index) => {
      const box = boxes[index];
      const spot = spots[index];
      if (!box || !spot) return [];
      return {
        id: layer.id,
        name: layer.name,
        letter: layerLetter(index),
        colour: layerMark(index).day,
        spot,
        width: box.width - 8,
        selected: layer.id === this.selected(),
        silenced: layer.muted,
      };
    });
  });
  /** Labels stay where they are while an edge is dragged, and find new places afterwards. */
  protected readonly labels = computed(() => this.calm().read(this.placed));

  /** The selected territory is drawn over the others, on a sheet of its own: it alone is painted anew while it is dragged. */
  protected readonly sheets = computed(() => {
    const territories = this.territories();
    return {
      below: territories.filter((territory) => !territory.selected),
      above: territories.filter((territory) => territory.selected),
    };
  });

  protected readonly silent = computed(() => {
    const scale = this.scale();
    return this.coverage().silent.flatMap((ground) => {
      const box = boxOf(scale, ground);
      if (!box) return [];
      const upright = box.width < 130;
      return {
        id: `${ground.keys.low} ${ground.velocities.low}`,
        box,
        words: `silent ${keysInWords(ground.keys, this.middleC())}`,
        upright,
        shown: upright ? box.height > 110 && box.width > 12 : box.height > 16,
      };
    });
  });

  /** Id of the remark whose tag is under the hand. */
  protected readonly tagged = signal<string | null>(null);
  protected readonly tags = computed(() => {
    const shown = this.tagged() ?? this.pointed();
    const scale = this.scale();
    const taken = new Map<string, number>();
    return this.remarks().flatMap((remark) => {
      const box = remark.where && boxOf(scale, remark.where);
      const tag = REMARK_TAGS[remark.kind];
      if (!box || !tag) return [];
      // Tags that would stand on one spot are stacked.
      const x = Math.min(scale.width - 60, Math.max(60, box.x + box.width / 2));
      const middle = Math.min(scale.height - 12, Math.max(12, box.y + box.height / 2));
      const spot = `${Math.round(x / 120)} ${Math.round(middle / 22)}`;
      const above = taken.get(spot) ?? 0;
      taken.set(spot, above + 1);
      const y = Math.max(12, middle - above * 22);
      return { remark, tag, box, x, y, here: remark.id === shown };
    });
  });

  protected readonly noteSpot = computed(() => {
    const note = this.note();
    if (!note) return null;
    const scale = this.scale();
    return { x: xOfKey(scale, note.key + 0.5), y: yOfVelocity(scale, note.velocity + 0.5) };
  });

  protected readonly handles = computed<Handle[]>(() => {
    const layer = this.layers().find((l) => l.id === this.selected());
    if (!layer || !this.present().has(layer.id)) return [];
    return (['keys', 'velocities'] as const).flatMap((axis) =>
      (['low', 'high', 'fadeIn', 'fadeOut'] as const).flatMap((part) => {
        const handle = this.handle(layer, axis, part);
        return handle ? [handle] : [];
      }),
    );
  });

  protected readonly corners = computed<Corner[]>(() => {
    const layer = this.layers().find((l) => l.id === this.selected());
    const box = layer && this.present().has(layer.id) ? boxOf(this.scale(), layer) : null;
    if (!box) return [];
    return (['low', 'high'] as const).flatMap((keyPart) =>
      (['low', 'high'] as const).map((velocityPart) => ({
        id: `${keyPart} ${velocityPart}`,
        keyPart,
        velocityPart,
        x: keyPart === 'low' ? box.x : box.x + box.width,
        y: velocityPart === 'high' ? box.y : box.y + box.height,
      })),
    );
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.letGo());
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      if (width > 0 && height > 0) this.size.set({ width, height });
    });
    observer.observe(this.host.nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    eachFrame(() => {
      const mark = this.mark()();
      const shown = this.note();
      if (mark?.key !== shown?.key || mark?.velocity !== shown?.velocity) this.note.set(mark);
    });
  }

  /** Selects the territory under the hand; again on the same spot, the one beneath it. */
  protected pick(event: PointerEvent): void {
    const { x, y } = this.pointIn(event);
    const here = this.territories().filter(
      ({ box }) => x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height,
    );
    if (here.length === 0) {
      this.layerSelected.emit(null);
      return;
    }
    const smallestFirst = here.sort(
      (a, b) => a.box.width * a.box.height - b.box.width * b.box.height,
    );
    const at = smallestFirst.findIndex((t) => t.id === this.selected());
    this.layerSelected.emit(smallestFirst[(at + 1) % smallestFirst.length].id);
  }

  protected point(event: PointerEvent): void {
    if (!this.drag) this.hovered.emit(keyUnder(this.scale(), this.pointIn(event).x));
  }

  protected grab(
    event: PointerEvent,
    parts: { axis: Axis; part: RangePart }[],
    line: { x: number; y: number },
  ): void {
    event.stopPropagation();
    event.preventDefault();
    const target = event.currentTarget as SVGElement;
    target.setPointerCapture(event.pointerId);
    target.focus();
    const { x, y } = this.pointIn(event);
    this.drag = {
      parts,
      gesture: crypto.randomUUID(),
      off: { x: x - line.x, y: y - line.y },
      split: event.shiftKey && parts.length === 1,
    };
    this.calm().hold(true);
    this.showReadout(event);
  }

  protected move(event: PointerEvent): void {
    const layer = this.layers().find((l) => l.id === this.selected());
    if (!this.drag || !layer) return;
    const point = this.heldPoint(event);
    const [{ axis, part }] = this.drag.parts;
    if (this.drag.split && (part === 'low' || part === 'high')) {
      const by = this.valueUnder(point, axis, part, layer[axis]) - layer[axis][part];
      const { gesture } = this.drag;
      if (by !== 0) this.splitMoved.emit({ layerId: layer.id, axis, side: part, by, gesture });
      this.showReadout(event);
      return;
    }
    const changes: FieldChange['changes'] = {};
    // Crossing its partner turns one edge into the other, so that the hand keeps hold of it.
    this.drag.parts = this.drag.parts.map(({ axis, part }) => {
      const before = changes[axis] ?? layer[axis];
      const value = this.valueUnder(point, axis, part, before);
      changes[axis] = withRangePart(before, part, value, axis === 'keys' ? 0 : 1);
      if (part === 'low' && value > before.high) return { axis, part: 'high' };
      if (part === 'high' && value < before.low) return { axis, part: 'low' };
      return { axis, part };
    });
    this.emitChange(layer, changes, this.drag.gesture);
    this.showReadout(event);
  }

  protected letGo(): void {
    if (this.drag) this.calm().hold(false);
    this.drag = null;
    this.readout.set(null);
  }

  protected nudge(event: KeyboardEvent, handle: Handle): void {
    const layer = this.layers().find((l) => l.id === this.selected());
    const direction = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!direction || !layer) return;
    event.preventDefault();
    event.stopPropagation();
    const far = handle.axis === 'keys' ? 12 : 10;
    const towards = handle.part === 'fadeOut' ? -direction : direction;
    const value = handle.value + towards * (event.shiftKey ? far : 1);
    const range = withRangePart(
      layer[handle.axis],
      handle.part,
      value,
      handle.axis === 'keys' ? 0 : 1,
    );
    this.emitChange(layer, { [handle.axis]: range }, `nudge ${layer.id} ${handle.id}`);
  }

  private emitChange(layer: Layer, changes: FieldChange['changes'], gesture: string): void {
    const real = Object.entries(changes).filter(
      ([axis, range]) => JSON.stringify(layer[axis as Axis]) !== JSON.stringify(range),
    );
    if (real.length > 0)
      this.changed.emit({ layerId: layer.id, changes: Object.fromEntries(real), gesture });
  }

  private handle(layer: Layer, axis: Axis, part: RangePart): Handle | null {
    const scale = this.scale();
    const box = boxOf(scale, layer);
    if (!box) return null;
    const range = layer[axis];
    const fade = part === 'fadeIn' || part === 'fadeOut';
    const edge =
      part === 'low'
        ? range.low
        : part === 'high'
          ? range.high + 1
          : part === 'fadeIn'
            ? range.low + range.fadeIn
            : range.high + 1 - range.fadeOut;
    const value = range[part];
    const shared = {
      id: `${axis} ${part}`,
      axis,
      part,
      fade,
      value,
      min: fade || axis === 'keys' ? 0 : 1,
      max: 127,
      label: `${layer.name}: ${PART_WORDS[axis][part]}`,
      text: this.valueInWords(axis, part, value),
    };
    // A fade's handle is short and sits inside, so that edge and fade can be told apart at length 0.
    if (axis === 'keys') {
      const x = xOfKey(scale, edge);
      if (x < -1 || x > scale.width + 1) return null;
      const [top, bottom] = fade
        ? [box.y + box.height * 0.36, box.y + box.height * 0.64]
        : [box.y, box.y + box.height];
      const inward = fade ? (part === 'fadeIn' ? HIT / 2 : -HIT / 2) : 0;
      return {
        ...shared,
        line: { x1: x, x2: x, y1: top, y2: bottom },
        hit: { x: x - HIT / 2 + inward, y: top, width: HIT, height: bottom - top },
      };
    }
    const y = yOfVelocity(scale, edge);
    const [left, right] = fade
      ? [box.x + box.width * 0.36, box.x + box.width * 0.64]
      : [box.x, box.x + box.width];
    const inward = fade ? (part === 'fadeIn' ? -HIT / 2 : HIT / 2) : 0;
    return {
      ...shared,
      line: { x1: left, x2: right, y1: y, y2: y },
      hit: { x: left, y: y - HIT / 2 + inward, width: right - left, height: HIT },
    };
  }

  private valueInWords(axis: Axis, part: RangePart, value: number): string {
    if (part === 'fadeIn' || part === 'fadeOut')
      return `fades over ${value} ${axis === 'keys' ? (value === 1 ? 'key' : 'keys') : 'steps'}`;
    return axis === 'keys'
      ? `${noteName(value, this.middleC())} (${value})`
      : `${value} (${dynamicOf(value)})`;
  }

  private showReadout(event: PointerEvent): void {
    const layer = this.layers().find((l) => l.id === this.selected());
    if (!this.drag || !layer) return;
    // The change just made is in the inputs only after the next round; ask the range as it will be.
    const point = this.heldPoint(event);
    const words = this.drag.parts.map(({ axis, part }) => {
      const range = layer[axis];
      const value = this.valueUnder(point, axis, part, range);
      const moved = withRangePart(range, part, value, axis === 'keys' ? 0 : 1);
      return this.valueInWords(axis, part, moved[part]);
    });
    this.readout.set({ ...this.pointIn(event), text: words.join(' · ') });
  }

  /** The value that a part of a range has when its line stands at a point. */
  private valueUnder(
    point: { x: number; y: number },
    axis: Axis,
    part: RangePart,
    range: Range,
  ): number {
    const boundary =
      axis === 'keys'
        ? keyBoundaryAt(this.scale(), point.x)
        : velocityBoundaryAt(this.scale(), point.y);
    switch (part) {
      case 'low':
        return boundary;
      case 'high':
        return boundary - 1;
      case 'fadeIn':
        return boundary - range.low;
      case 'fadeOut':
        return range.high + 1 - boundary;
    }
  }

  /** Where the line is that the hand holds; it rarely takes hold of it in the very middle. */
  private heldPoint(event: PointerEvent): { x: number; y: number } {
    const { x, y } = this.pointIn(event);
    return { x: x - (this.drag?.off.x ?? 0), y: y - (this.drag?.off.y ?? 0) };
  }

  private pointIn(event: PointerEvent): { x: number; y: number } {
    const box = this.host.nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
}
