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
import { keysInWords, type Coverage, type Remark } from '@pentachord/core/coverage';
import { layerLetter, type Layer } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { eachFrame } from '../../live/frames';
import { layerMark } from '../../ui/layer-colours';
import { Calm } from '../calm';
import { FieldDrag, nudged, type Dragged, type FieldChange, type SplitMove } from './field-drag';
import {
  boxOf,
  contours,
  keyUnder,
  xOfKey,
  yOfVelocity,
  type FieldScale,
} from '../../ui/field/field-geometry';
import { groundsOf } from './grounds';
import { cornersOf, handlesOf, type AxisPart, type Handle, type Point } from './handles';
import { hatching } from './hatching';
import { Territories } from './territories';
import { wordsOnField } from './wording';
import { Tip } from '../../ui/tips/tip';

/** A note to be marked on the field. */
export interface FieldMark {
  key: number;
  velocity: number;
}

/** Pixels that a letter takes of what is told beside the hand, what is around it, and how far from the hand it stands. */
const READOUT = { letter: 7.9, around: 16, beside: 14, above: 34 };
/**
 * The map of a patch: keys east, velocity north. Layers are territories with hatching, fades contour lines, silent ground
 * is left uncharted. Edges, corners and fades of the selected layer can be dragged, or moved with the arrow keys.
 */
@Component({
  selector: 'pc-field',
  imports: [Tip, Territories],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './field.html',
  styleUrl: './field.scss',
})
export class Field {
  readonly layers = input.required<readonly Layer[]>();
  /** Ids of the layers that listen to the keyboard shown; the others are not drawn. */
  readonly present = input.required<ReadonlySet<string>>();
  /** Layers that a chooser has not picked: they are ghosts of what could be played. */
  readonly ghosts = input<ReadonlySet<string>>(new Set());
  readonly coverage = input.required<Coverage>();
  readonly selected = input<string | null>(null);
  /** The layer under the hand elsewhere, such as in the ledger. */
  readonly hoveredLayer = input<string | null>(null);
  readonly middleC = input<NoteNaming>(4);
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
  protected readonly readout = signal<{ x: number; y: number; text: string } | null>(null);
  protected readonly note = signal<FieldMark | null>(null);
  /** The layer whose label is under the hand. */
  protected readonly pointedLayer = signal<string | null>(null);
  /** Id of the remark whose tag is under the hand. */
  protected readonly tagged = signal<string | null>(null);
  private drag: FieldDrag | null = null;

  protected readonly scale = computed<FieldScale>(() => ({
    ground: this.coverage().ground,
    ...this.size(),
  }));

  /** The layer that the hand can change, if it is on this keyboard. */
  private readonly held = computed(
    () => this.layers().find(({ id }) => id === this.selected() && this.present().has(id)) ?? null,
  );
  /** Layers drawn by themselves over the others: the selected one and the one under the hand. */
  private readonly plain = computed(
    () => new Set([this.selected(), this.pointedLayer() ?? this.hoveredLayer()]),
  );

  protected readonly hatches = computed(() =>
    this.layers().map((_, index) => ({
      index,
      mark: layerMark(index),
      ...hatching(layerMark(index)),
    })),
  );
  private readonly boxes = computed(() => {
    const scale = this.scale();
    return this.layers().map((layer) =>
      this.present().has(layer.id) ? boxOf(scale, layer) : null,
    );
  });
  protected readonly territories = computed(() => {
    const scale = this.scale();
    const plain = this.plain();
    const boxes = this.boxes();
    return this.layers().flatMap((layer, index) => {
      const box = boxes[index];
      if (!box) return [];
      return {
        id: layer.id,
        index,
        mark: layerMark(index),
        box,
        selected: layer.id === this.selected(),
        plain: plain.has(layer.id),
        silenced: layer.muted || this.ghosts().has(layer.id),
        keyLines: contours(layer.keys).map((at) => xOfKey(scale, at)),
        velocityLines: contours(layer.velocities).map((at) => yOfVelocity(scale, at)),
      };
    });
  });

  /** What is plain is drawn over the others, on a sheet of its own. */
  protected readonly sheets = computed(() => {
    const territories = this.territories();
    return {
      below: territories.filter(({ plain }) => !plain),
      above: territories.filter(({ plain }) => plain),
    };
  });

  private readonly plainIndices = computed(() => {
    const plain = this.plain();
    return new Set(this.layers().flatMap(({ id }, index) => (plain.has(id) ? [index] : [])));
  });
  protected readonly grounds = computed(() =>
    groundsOf(this.scale(), this.coverage(), this.plainIndices()),
  );

  private readonly worded = computed(() =>
    wordsOnField({
      scale: this.scale(),
      layers: this.layers(),
      boxes: this.boxes(),
      remarks: this.remarks(),
      grounds: this.grounds(),
    }),
  );
  /** Words stay where they are while an edge is dragged, and find new places afterwards. */
  private readonly words = computed(() => this.calm().read(this.worded));
  protected readonly labels = computed(() =>
    this.words().labels.map(({ layer, index, spot }) => ({
      id: layer.id,
      name: layer.name,
      letter: layerLetter(index),
      colour: layerMark(index).day,
      spot,
      selected: layer.id === this.selected(),
      silenced: layer.muted || this.ghosts().has(layer.id),
      why: layer.muted ? ' · muted' : this.ghosts().has(layer.id) ? ' · not picked' : '',
    })),
  );
  protected readonly tags = computed(() => this.words().tags);
  protected readonly named = computed(() => this.words().named);
  /** The tag whose place is shown. */
  protected readonly shownTag = computed(() => {
    const shown = this.tagged() ?? this.pointed();
    return this.tags().find(({ remark }) => remark.id === shown) ?? null;
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

  protected readonly noteSpot = computed(() => {
    const note = this.note();
    if (!note) return null;
    const scale = this.scale();
    return { x: xOfKey(scale, note.key + 0.5), y: yOfVelocity(scale, note.velocity + 0.5) };
  });

  protected readonly handles = computed(() => {
    const layer = this.held();
    return layer ? handlesOf(this.scale(), layer, this.middleC()) : [];
  });
  protected readonly corners = computed(() => {
    const layer = this.held();
    return layer ? cornersOf(this.scale(), layer) : [];
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

  protected grab(event: PointerEvent, parts: AxisPart[], line: Point): void {
    event.stopPropagation();
    event.preventDefault();
    const target = event.currentTarget as SVGElement;
    target.setPointerCapture(event.pointerId);
    target.focus();
    const { x, y } = this.pointIn(event);
    const off = { x: x - line.x, y: y - line.y };
    const split = event.shiftKey && parts.length === 1;
    this.drag = new FieldDrag(parts, crypto.randomUUID(), off, split);
    this.calm().hold(true);
    this.showReadout(event);
  }

  protected move(event: PointerEvent): void {
    const layer = this.held();
    if (!this.drag || !layer) return;
    this.calm().moved();
    this.emit(this.drag.move(this.scale(), layer, this.pointIn(event)));
    this.showReadout(event);
  }

  protected letGo(): void {
    if (this.drag) this.calm().hold(false);
    this.drag = null;
    this.readout.set(null);
  }

  protected nudge(event: KeyboardEvent, handle: Handle): void {
    const layer = this.held();
    const direction = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!direction || !layer) return;
    event.preventDefault();
    event.stopPropagation();
    const far = handle.axis === 'keys' ? 12 : 10;
    const towards = handle.part === 'fadeOut' ? -direction : direction;
    const value = handle.value + towards * (event.shiftKey ? far : 1);
    this.emit(nudged(layer, handle, value, `nudge ${layer.id} ${handle.id}`));
  }

  private emit(dragged: Dragged): void {
    if (!dragged) return;
    if ('change' in dragged) this.changed.emit(dragged.change);
    else this.splitMoved.emit(dragged.split);
  }

  private showReadout(event: PointerEvent): void {
    const layer = this.held();
    if (!this.drag || !layer) return;
    const hand = this.pointIn(event);
    const text = this.drag.words(this.scale(), layer, hand, this.middleC());
    const { width } = this.scale();
    const wide = READOUT.around + text.length * READOUT.letter;
    // Beside the hand and above it, within the map.
    const right = hand.x + READOUT.beside;
    const x = right + wide <= width ? right : hand.x - READOUT.beside - wide;
    this.readout.set({ x, y: Math.max(2, hand.y - READOUT.above), text });
  }

  private pointIn(event: PointerEvent): Point {
    const box = this.host.nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
}
