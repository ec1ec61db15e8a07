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
  moveZones,
  type Recordings,
  type ZoneChanges,
  type ZoneGround,
  type ZonePart,
} from '@pentachord/core/mapping';
import type { SampleZone } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import { DYNAMICS } from '../ui/field/dynamics';
import { boxOf, xOfKey, yOfVelocity, type FieldScale } from '../ui/field/field-geometry';
import { layerMark } from '../ui/layer-colours';
import { strengthRanks } from './strength-ranks';
import { crowdedAmong, isSame, shapeOf, type ZoneDrawn } from './zone-shape';
import { ZoneFigure } from './zone-figure';
import { tellingNames } from './telling-names';

/** What a hand has changed of zones, with the gesture that it belongs to. */
export interface ZonesMoved {
  changes: ZoneChanges;
  words: string;
  gesture: string;
}

/** A note on the chart. */
export interface ChartNote {
  key: number;
  velocity: number;
}

interface Handle {
  id: string;
  part: ZonePart;
  label: string;
  value: string;
  x: number;
  y: number;
  isCorner: boolean;
}

/**
 * The zones of a sound as a map: keys east, velocity north. A recording lies as an area round its root’s mark; what several answer is
 * hatched twice, what none answers is uncharted. Edges, corners, roots and whole zones are dragged, or moved by arrow keys.
 */
@Component({
  selector: 'pc-zone-chart',
  imports: [ZoneFigure],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './zone-chart.html',
  styleUrl: './zone-chart.scss',
  host: {
    tabindex: '0',
    role: 'group',
    'aria-label':
      'Zones: keys across, velocity up. Arrow keys move the chosen ones; the ledger below says the same in numbers.',
    '(pointermove)': 'move($event)',
    '(pointerup)': 'letGo()',
    '(pointercancel)': 'letGo()',
    '(keydown)': "nudge($event, 'whole')",
  },
})
export class ZoneChart {
  readonly zones = input.required<readonly SampleZone[]>();
  readonly recordings = input.required<Recordings>();
  /** Keys that are shown. */
  readonly keys = input.required<{ low: number; high: number }>();
  readonly selected = input.required<ReadonlySet<string>>();
  readonly silent = input<readonly ZoneGround[]>([]);
  /** Zones that sound now, and the note that began them. */
  readonly lit = input<ReadonlySet<string>>(new Set());
  readonly note = input<ChartNote | null>(null);
  readonly middleC = input<NoteNaming>(4);
  readonly selectedChange = output<ReadonlySet<string>>();
  readonly moved = output<ZonesMoved>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly size = signal({ width: 900, height: 280 });
  protected readonly dynamics = DYNAMICS;
  protected readonly readout = signal<{ x: number; y: number; text: string } | null>(null);
  /** What a hand is about to change: it is drawn here alone until the hand lets go, and is one edit then. */
  private readonly preview = signal<ZoneChanges | null>(null);
  private hold: {
    part: ZonePart;
    from: { x: number; y: number };
    zones: readonly SampleZone[];
    gesture: string;
    hasMoved: boolean;
  } | null = null;

  protected readonly scale = computed<FieldScale>(() => ({
    ground: { keys: this.keys(), velocities: { low: 1, high: 127 } },
    ...this.size(),
  }));
  private readonly ranks = computed(() => strengthRanks(this.zones()));
  protected readonly marks = computed(() =>
    [...new Set(this.ranks().values())].map((rank) => ({ rank, colour: layerMark(rank).day })),
  );

  private readonly names = computed(() => tellingNames(this.zones(), this.recordings()));

  /** Shapes as they were drawn last, so that those of zones that stay are not drawn anew. */
  private readonly drawn = new Map<string, ZoneDrawn>();
  protected readonly shapes = computed(() => {
    const scale = this.scale();
    const selected = this.selected();
    const ranks = this.ranks();
    const known = this.recordings();
    const names = this.names();
    const zones = this.zones();
    const crowded = this.crowded();
    return zones.flatMap((zone) => {
      const about = {
        ...{ zone, scale, rank: ranks.get(zone.id) ?? 0, recording: known[zone.recordingId] },
        label: names.get(zone.recordingId) ?? 'missing',
        isSelected: selected.has(zone.id),
        isHatched: !crowded.has(zone.id),
      };
      const before = this.drawn.get(zone.id);
      if (before && isSame(before.about, about)) return before.shape ? [before.shape] : [];
      const shape = shapeOf(about);
      this.drawn.set(zone.id, { about, shape });
      return shape ? [shape] : [];
    });
  });
  /** Zones over so many others that they are not hatched. */
  private readonly crowded = computed(() => crowdedAmong(this.zones()));
  /** The selected ones are drawn over the others, as a hand is about to have them: with every frame those alone are drawn anew. */
  protected readonly above = computed(() => {
    const changes = this.preview();
    return this.shapes().flatMap((shape) => {
      if (!shape.about.isSelected) return [];
      if (!changes || !(shape.id in changes)) return [shape];
      const zone = { ...shape.about.zone, ...changes[shape.id] };
      const moved = shapeOf({ ...shape.about, zone });
      return moved ? [moved] : [];
    });
  });
  protected readonly below = computed(() => this.shapes().filter(({ about }) => !about.isSelected));
  protected readonly grounds = computed(() =>
    this.silent().flatMap((ground) => {
      const box = boxOf(this.scale(), ground);
      return box ? [{ ground, box, words: this.groundInWords(ground) }] : [];
    }),
  );
  protected readonly noteSpot = computed(() => {
    const note = this.note();
    const scale = this.scale();
    return note && { x: xOfKey(scale, note.key + 0.5), y: yOfVelocity(scale, note.velocity + 0.5) };
  });
  protected readonly levels = computed(() =>
    DYNAMICS.map(({ name, velocity }) => ({
      ...{ name, velocity, y: yOfVelocity(this.scale(), velocity) },
    })),
  );

  /** The zone that handles belong to: the one selected last. */
  private readonly primary = computed(() => {
    const last = [...this.selected()].at(-1);
    const zone = this.zones().find(({ id }) => id === last);
    return zone ? { ...zone, ...this.preview()?.[zone.id] } : null;
  });
  protected readonly handles = computed((): Handle[] => {
    const zone = this.primary();
    const box = zone && boxOf(this.scale(), zone);
    if (!zone || !box) return [];
    const { x, y, width, height } = box;
    const key = (at: number) => noteName(at, this.middleC());
    const edge = (
      [id, label, value]: [string, string, string],
      part: ZonePart,
      at: [number, number],
      isCorner = false,
    ): Handle => ({ id, label, value, part, x: at[0], y: at[1], isCorner });
    const { keys, velocities } = zone;
    const [right, bottom, middle, half] = [x + width, y + height, x + width / 2, y + height / 2];
    return [
      edge(['keys low', 'Lowest key', key(keys.low)], { keys: 'low' }, [x, half]),
      edge(['keys high', 'Highest key', key(keys.high)], { keys: 'high' }, [right, half]),
      edge(['v low', 'Lowest velocity', `${velocities.low}`], { velocities: 'low' }, [
        middle,
        bottom,
      ]),
      edge(['v high', 'Highest velocity', `${velocities.high}`], { velocities: 'high' }, [
        middle,
        y,
      ]),
      ...(
        [
          ['low', 'low', x, bottom],
          ['high', 'low', right, bottom],
          ['low', 'high', x, y],
          ['high', 'high', right, y],
        ] as const
      ).map(([ofKeys, ofVelocities, atX, atY]) =>
        edge(
          [
            `corner ${ofKeys} ${ofVelocities}`,
            `${ofKeys === 'low' ? 'Lowest' : 'Highest'} key and ${ofVelocities === 'low' ? 'lowest' : 'highest'} velocity`,
            `${key(keys[ofKeys])}, ${velocities[ofVelocities]}`,
          ],
          { keys: ofKeys, velocities: ofVelocities },
          [atX, atY],
          true,
        ),
      ),
      edge(['root', 'Root', key(zone.root)], 'root', [
        Math.min(right - 5, Math.max(x + 5, xOfKey(this.scale(), zone.root + 0.5))),
        bottom - 7,
      ]),
    ];
  });

  constructor() {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      if (width > 0 && height > 0) this.size.set({ width, height });
    });
    observer.observe(this.host.nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  /** Selects what is under the hand, and takes hold of all that is selected. */
  protected grabZone(event: PointerEvent, id: string): void {
    event.stopPropagation();
    const before = this.selected();
    const adds = event.ctrlKey || event.metaKey || event.shiftKey;
    if (adds) {
      const after = new Set(before);
      if (!after.delete(id)) after.add(id);
      this.selectedChange.emit(after);
      return;
    }
    if (!before.has(id)) this.selectedChange.emit(new Set([id]));
    const zones = before.has(id)
      ? this.zones().filter((zone) => before.has(zone.id))
      : this.zones().filter((zone) => zone.id === id);
    this.take(event, 'whole', zones);
  }

  protected grabHandle(event: PointerEvent, part: ZonePart): void {
    event.stopPropagation();
    this.take(
      event,
      part,
      this.zones().filter(({ id }) => this.selected().has(id)),
    );
  }

  private take(event: PointerEvent, part: ZonePart, zones: readonly SampleZone[]): void {
    // What is chosen is drawn on another sheet, so that nothing on them could hold the hand.
    this.host.nativeElement.setPointerCapture(event.pointerId);
    const target = part === 'whole' ? this.host.nativeElement : (event.currentTarget as SVGElement);
    target.focus();
    const from = { x: event.clientX, y: event.clientY };
    this.hold = { part, from, zones, gesture: crypto.randomUUID(), hasMoved: false };
  }

  protected move(event: PointerEvent): void {
    const { hold } = this;
    if (!hold) return;
    const { width, height, ground } = this.scale();
    const wide = width / (ground.keys.high - ground.keys.low + 1);
    const by = {
      keys: Math.round((event.clientX - hold.from.x) / wide),
      velocities: Math.round((hold.from.y - event.clientY) / (height / 127)),
    };
    // A click is no move.
    if (!hold.hasMoved && by.keys === 0 && by.velocities === 0) return;
    hold.hasMoved = true;
    const changes = moveZones(hold.zones, hold.part, by);
    this.preview.set(changes);
    this.showReadout(event, changes);
  }

  protected letGo(): void {
    const changes = this.preview();
    if (this.hold && changes)
      this.moved.emit({ changes, words: wordsOf(this.hold.part), gesture: this.hold.gesture });
    this.preview.set(null);
    this.hold = null;
    this.readout.set(null);
  }

  protected nudge(event: KeyboardEvent, part: ZonePart): void {
    const steps: Partial<Record<string, { keys: number; velocities: number }>> = {
      ArrowLeft: { keys: -1, velocities: 0 },
      ArrowRight: { keys: 1, velocities: 0 },
      ArrowUp: { keys: 0, velocities: 1 },
      ArrowDown: { keys: 0, velocities: -1 },
    };
    if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      this.selectedChange.emit(new Set(this.zones().map(({ id }) => id)));
      return;
    }
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const far = event.shiftKey ? { keys: 12, velocities: 10 } : { keys: 1, velocities: 1 };
    const by = { keys: step.keys * far.keys, velocities: step.velocities * far.velocities };
    const zones = this.zones().filter(({ id }) => this.selected().has(id));
    const changes = moveZones(zones, part, by);
    const gesture = `nudge ${JSON.stringify(part)} ${[...this.selected()].join()}`;
    this.moved.emit({ changes, words: wordsOf(part), gesture });
  }

  protected clear(): void {
    this.selectedChange.emit(new Set());
  }

  private showReadout(event: PointerEvent, changes: ZoneChanges): void {
    const id = [...this.selected()].at(-1) ?? '';
    const zone = this.zones().find((one) => one.id === id);
    if (!zone) return;
    const { keys, velocities, root } = { ...zone, ...changes[id] };
    const key = (at: number) => noteName(at, this.middleC());
    const box = this.host.nativeElement.getBoundingClientRect();
    const text =
      this.hold?.part === 'root'
        ? `root ${key(root)}`
        : `${key(keys.low)}–${key(keys.high)} · ${velocities.low}–${velocities.high}`;
    const wide = 24 + text.length * 7.9;
    const right = event.clientX - box.left + 14;
    this.readout.set({
      x: right + wide <= box.width ? right : right - 28 - wide,
      y: Math.max(2, event.clientY - box.top - 34),
      text,
    });
  }

  private groundInWords({ keys, velocities }: ZoneGround): string {
    const [low, high] = [noteName(keys.low, this.middleC()), noteName(keys.high, this.middleC())];
    const strengths =
      velocities.low === 1 && velocities.high === 127
        ? ''
        : `, ${velocities.low}–${velocities.high}`;
    return `silent ${low === high ? low : `${low}–${high}`}${strengths}`;
  }
}

function wordsOf(part: ZonePart): string {
  if (part === 'root') return 'root moved';
  return part === 'whole' ? 'zones moved' : 'edges of zones moved';
}
