import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatInput } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { MatTableModule } from '@angular/material/table';
import {
  type Keyboard,
  type Layer,
  type Patch,
  type Place,
  type Sound,
} from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { withRangePart, type RangePart } from '@pentachord/core/range';
import { transpositionInWords, type LevelNow } from '@pentachord/core/routing';
import { touchInWords } from '@pentachord/core/touch';
import { LayerBadge } from '../../ui/layer-badge';
import { LevelMeter } from '../../ui/level-meter';
import { NameField } from '../../ui/names/name-field';
import { NumberField } from '../../ui/numbers/number-field';
import { RowDrag, type DraggedRow } from './row-drag';
import { RowFocus } from './row-focus';
import { RowStops } from './row-stops';
import { StolenFlag } from './stolen-flag';
import { ORDERS, type LedgerRow, type SortKey } from './ledger-rows';
import { Tip } from '../../ui/tips/tip';

/** A change of a layer made in the ledger. */
export interface LedgerChange {
  layerId: string;
  changes: Partial<Omit<Layer, 'id' | 'soundId'>>;
  gesture?: string;
}

/** A layer whose transposition is looked at, and of what it is made up. */
export interface TransposedLayer {
  layerId: string;
  words: string;
}

/** A layer to be opened: at a part of it, or where the drawer was last. */
export interface LedgerOpening {
  layerId: string;
  tab: 'touch' | null;
}

/** What the menu of a row offers; the layer it is opened on has been told before. */
export interface RowCommand {
  words: string;
  shown: string;
  icon?: string;
  why: () => string;
  /** What there is to choose from, if anything has to be chosen. */
  choose?: () => readonly { id: string; name: string }[];
  run: (choice: string) => void;
}

/** A row clicked, and whether the others stay selected. */
export interface LedgerPick {
  layerId: string;
  /** `also`: this one too, or no longer; `through`: all up to it. */
  how: 'only' | 'also' | 'through';
}

const COLUMNS: readonly SortKey[] = [
  'letter',
  'name',
  'sound',
  'from',
  'keys',
  'velocities',
  'touch',
  'transpose',
  'level',
  'pan',
];

/** The table of layers: one row a layer, every number typed, stepped, or played. */
@Component({
  selector: 'pc-ledger',
  imports: [
    LayerBadge,
    LevelMeter,
    MatButtonModule,
    MatIconModule,
    MatInput,
    MatMenuModule,
    MatSortModule,
    MatTableModule,
    Tip,
    NameField,
    NumberField,
    RowDrag,
    RowStops,
    StolenFlag,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ledger.html',
  styleUrl: './ledger.scss',
})
export class Ledger {
  readonly patch = input.required<Patch>();
  readonly library = input.required<readonly Sound[]>();
  readonly keyboards = input.required<readonly Keyboard[]>();
  /** What the channels are called. */
  readonly labels = input<readonly string[]>([]);
  readonly selected = input<string | null>(null);
  /** Every selected layer, that one included. */
  readonly selection = input<ReadonlySet<string>>(new Set());
  /** Share of the budget by layer, 0–1. */
  readonly costs = input<ReadonlyMap<string, number>>(new Map());
  readonly soloed = input<ReadonlySet<string>>(new Set());
  /** Levels that hands have moved since, by layer. */
  readonly levelsNow = input<Readonly<Record<string, LevelNow | undefined>>>({});
  readonly middleC = input<NoteNaming>(4);
  /** Semitones from the fingered to the sounding key of the song. */
  readonly songShift = input(0);
  /** Letters that surely find room in a cell. */
  protected readonly fits = 22;
  readonly picked = output<LedgerPick>();
  readonly changed = output<LedgerChange>();
  readonly soloAsked = output<string>();
  readonly opened = output<LedgerOpening>();
  /** The menu of a row was opened; {@link commands} are about this layer now. */
  readonly menuOpened = output<string>();
  readonly commands = input<readonly RowCommand[]>([]);
  /** A row dragged to another place, counted without itself. */
  readonly moved = output<{ layerId: string; to: number }>();
  /** The player wants another sound for a layer. */
  readonly swapAsked = output<string>();

  /** The layer whose transposition is under the hand or the caret, and of what it is made up; null when none is. */
  readonly transposing = output<TransposedLayer | null>();

  /** The layer under the hand, null when none is. */
  readonly hovered = output<string | null>();

  protected readonly columns = [...COLUMNS, 'deeds'];
  protected readonly sort = signal<Sort>({ active: 'letter', direction: 'asc' });
  /** True while the rows stand in the order of the patch, and can be put into another one. */
  protected readonly inOrder = computed(() => {
    const { active, direction } = this.sort();
    return direction === '' || (active === 'letter' && direction === 'asc');
  });
  protected readonly axes = ['keys', 'velocities'] as const;
  protected readonly channels = Array.from({ length: 16 }, (_, i) => i + 1);
  protected readonly rows = computed(() => {
    if (this.inOrder()) return this.lines();
    const { active, direction } = this.sort();
    const sorted = [...this.lines()].sort(ORDERS[active as SortKey]);
    return direction === 'desc' ? sorted.reverse() : sorted;
  });
  private readonly lines = computed((): LedgerRow[] => {
    const { layers, sounds } = this.patch();
    const byId = new Map(this.library().map((sound) => [sound.id, sound]));
    return layers.map((layer, index) => {
      const patchSound = sounds.find((s) => s.id === layer.soundId);
      const sharing = layers.filter((l) => l.soundId === layer.soundId && l.id !== layer.id);
      return {
        layer,
        index,
        sound: byId.get(patchSound?.librarySoundId ?? '') ?? null,
        sharing: sharing.map((l) => l.name).join(', '),
        from: this.fromInWords(layer),
        touch: touchInWords(layer.touch),
        transposition: this.transpositionOf(layer),
        cost: costInWords(this.costs().get(layer.id)),
      };
    });
  });

  /** The rows stand in the order of the patch, or no longer. */
  readonly orderChanged = output<boolean>();
  protected readonly focus = new RowFocus(
    computed(() => this.rows().map(({ layer }) => layer.id)),
    this.selected,
  );

  protected goAmongRows(event: KeyboardEvent, { layer }: LedgerRow): void {
    this.focus.goAmong(event, layer.id, (layerId) => this.picked.emit({ layerId, how: 'only' }));
  }

  protected tellTransposition(row: LedgerRow | null): void {
    this.transposing.emit(row && { layerId: row.layer.id, words: row.transposition });
  }

  protected sortBy(sort: Sort): void {
    this.sort.set(sort);
    this.orderChanged.emit(this.inOrder());
  }

  protected layerOf(layerId: string): Layer | null {
    return this.patch().layers.find(({ id }) => id === layerId) ?? null;
  }

  protected idOf(_index: number, { layer }: LedgerRow): string {
    return layer.id;
  }

  protected drop({ from, to }: DraggedRow): void {
    const layerId = this.rows()[from]?.layer.id;
    if (layerId) this.moved.emit({ layerId, to });
  }

  /** A double click on what is no field and no button opens the layer. */
  protected open(event: MouseEvent, layerId: string): void {
    if (!(event.target as HTMLElement).closest('input, button'))
      this.opened.emit({ layerId, tab: null });
  }

  /** True for a range without limits. */
  protected everything(layer: Layer, axis: 'keys' | 'velocities'): boolean {
    return layer[axis].low === (axis === 'keys' ? 0 : 1) && layer[axis].high === 127;
  }

  /** Takes the limits off a range. */
  protected takeAll(layer: Layer, axis: 'keys' | 'velocities', gesture: string): void {
    const range = { ...layer[axis], low: axis === 'keys' ? 0 : 1, high: 127 };
    this.changed.emit({
      layerId: layer.id,
      changes: { [axis]: range },
      gesture: `${gesture} ${axis} all`,
    });
  }

  /** A click that selects several rows does not also go into one of them. */
  protected holdBack(event: MouseEvent): void {
    if (!event.ctrlKey && !event.metaKey && !event.shiftKey) return;
    event.preventDefault();
    (document.activeElement as HTMLElement | null)?.blur();
  }

  protected click(event: MouseEvent, layerId: string): void {
    if (event.ctrlKey || event.metaKey) this.picked.emit({ layerId, how: 'also' });
    else if (event.shiftKey) this.picked.emit({ layerId, how: 'through' });
    else if (!(event.target as HTMLElement).closest('input, button'))
      this.picked.emit({ layerId, how: 'only' });
  }

  /** Going into a row selects it, unless it is selected with others already. */
  protected enter(event: FocusEvent, layerId: string): void {
    const inside = (event.target as HTMLElement).closest('input, .cell, .switch');
    this.focus.enter(layerId);
    if (inside && !this.selection().has(layerId)) this.picked.emit({ layerId, how: 'only' });
  }

  protected range(
    layer: Layer,
    axis: 'keys' | 'velocities',
    part: RangePart,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    const range = withRangePart(layer[axis], part, value, axis === 'keys' ? 0 : 1);
    this.changed.emit({
      layerId: layer.id,
      changes: { [axis]: range },
      gesture: `${gesture} ${axis} ${part}`,
    });
  }

  protected number(
    layer: Layer,
    field: 'transpose' | 'level' | 'pan',
    { value, gesture }: { value: number; gesture: string },
  ): void {
    this.changed.emit({
      layerId: layer.id,
      changes: { [field]: value },
      gesture: `${gesture} ${field}`,
    });
  }

  protected listenTo(layer: Layer, keyboards: Layer['keyboards']): void {
    this.changed.emit({ layerId: layer.id, changes: { keyboards } });
  }

  protected toggleKeyboard(layer: Layer, place: Place): void {
    const before =
      layer.keyboards === 'any' ? this.keyboards().map((k) => k.place) : layer.keyboards;
    const after = before.includes(place) ? before.filter((k) => k !== place) : [...before, place];
    if (after.length > 0) this.listenTo(layer, after);
  }

  protected hears(layer: Layer, place: Place): boolean {
    return layer.keyboards === 'any' || layer.keyboards.includes(place);
  }

  /** What adds up between a key of the layer, as near to middle C as it answers, and the note that sounds. */
  private transpositionOf(layer: Layer): string {
    const { keyboards } = layer;
    const keyboard = this.keyboards().find(
      (k) => keyboards === 'any' || keyboards.includes(k.place),
    );
    const sum = {
      keyboard: (keyboard?.octaveShift ?? 0) * 12,
      song: layer.followsSong ? this.songShift() : 0,
      layer: layer.transpose,
    };
    const key = Math.min(layer.keys.high, Math.max(layer.keys.low, 60));
    return transpositionInWords(sum, key - sum.keyboard, this.middleC());
  }

  private fromInWords(layer: Layer): string {
    const { keyboards } = layer;
    const names =
      keyboards === 'any'
        ? 'any'
        : this.keyboards()
            .filter((k) => keyboards.includes(k.place))
            .map((k) => k.name)
            .join(', ') || 'none in the rig';
    if (layer.channel === 'any') return names;
    const label = this.labels().at(layer.channel - 1);
    return `${names} · ${layer.channel}${label ? ` ${label}` : ''}`;
  }
}

function costInWords(share: number | undefined): string {
  return share === undefined || share === 0 ? '' : `${(share * 100).toFixed(1)} %`;
}
