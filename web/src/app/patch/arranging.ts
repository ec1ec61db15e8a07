import { computed, inject, Injectable } from '@angular/core';
import {
  besideNeighbour,
  endingAt,
  groundOf,
  madeToMeet,
  overlapsCrossfaded,
  shareKeyboard,
  sharedOut,
  type RangeChanges,
} from '@pentachord/core/coverage';
import type { Layer } from '@pentachord/core/model';
import { intersection, splitAt, splitEvenly, type Range } from '@pentachord/core/range';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import { edits } from '../state/editing/edits';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import { selectKeyboard, selectRig, selectSession } from '../state/selectors';
import { session } from '../state/session/session';

/** A command on the ranges of the selected layers. */
export interface ArrangeCommand {
  words: string;
  /** As tinykeys reads it, and as it is shown. */
  keys: string;
  shown: string;
  /** How many layers have to be selected. */
  needs: 'one' | 'several';
  /** What there is to choose from; each is a key too. */
  choices?: readonly string[];
  /** Gets the key that was pressed, or the choice. */
  run: (choice: string) => void;
}

/** Into how many parts a layer can be split at once. */
const WAYS = ['2', '3', '4', '5', '6', '7', '8'];

/** Commands that make ranges: at the last key played, beside a neighbour, shared out, made to meet, crossfaded. */
@Injectable({ providedIn: 'root' })
export class Arranging {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly editing = inject(PatchEditing);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly keyboard = this.store.selectSignal(selectKeyboard);
  private readonly rig = this.store.selectSignal(selectRig);

  /** The layers that commands work on, in the order of the patch. */
  readonly selected = computed(() => {
    const ids = new Set(this.session().layerIds);
    return this.editing.patch()?.layers.filter((layer) => ids.has(layer.id)) ?? [];
  });

  readonly commands: readonly ArrangeCommand[] = [
    {
      words: 'Lowest key: the last one played',
      keys: 'KeyL',
      shown: 'L',
      needs: 'one',
      run: () => this.atLastKey('low'),
    },
    {
      words: 'Highest key: the last one played',
      keys: 'KeyH',
      shown: 'H',
      needs: 'one',
      run: () => this.atLastKey('high'),
    },
    {
      words: 'Down to my neighbour',
      keys: 'Shift+KeyU',
      shown: 'Shift U',
      needs: 'one',
      run: () => this.toNeighbour('low'),
    },
    {
      words: 'Up to my neighbour',
      keys: 'KeyU',
      shown: 'U',
      needs: 'one',
      run: () => this.toNeighbour('high'),
    },
    {
      words: 'Split in two at the last key played',
      keys: 'KeyX',
      shown: 'X',
      needs: 'one',
      run: () => this.splitInTwo(),
    },
    {
      words: 'Split evenly in parts',
      keys: WAYS.join(),
      shown: `${WAYS[0]} … ${WAYS.at(-1)}`,
      choices: WAYS,
      needs: 'one',
      run: (ways) => this.splitInto(Number(ways)),
    },
    {
      words: 'Share the keyboard out evenly',
      keys: 'KeyN',
      shown: 'N',
      needs: 'several',
      run: () => this.shareKeys(),
    },
    {
      words: 'Share the strengths out evenly',
      keys: 'KeyV',
      shown: 'V',
      needs: 'several',
      run: () => this.shareStrengths(),
    },
    {
      words: 'Keys: close gaps, remove overlaps',
      keys: 'KeyG',
      shown: 'G',
      needs: 'several',
      run: () => this.apply(madeToMeet(this.selected(), 'keys'), 'keys made to meet'),
    },
    {
      words: 'Strengths: close gaps, remove overlaps',
      keys: 'Shift+KeyG',
      shown: 'Shift G',
      needs: 'several',
      run: () => this.apply(madeToMeet(this.selected(), 'velocities'), 'strengths made to meet'),
    },
    {
      words: 'Keys: overlaps become crossfades',
      keys: 'Shift+KeyC',
      shown: 'Shift C',
      needs: 'several',
      run: () => this.apply(overlapsCrossfaded(this.selected(), 'keys'), 'keys crossfaded'),
    },
    {
      words: 'Strengths: overlaps become crossfades',
      keys: 'KeyC',
      shown: 'C',
      needs: 'several',
      run: () =>
        this.apply(overlapsCrossfaded(this.selected(), 'velocities'), 'strengths crossfaded'),
    },
  ];

  /** True when enough layers are selected for a command. */
  possible({ needs }: ArrangeCommand): boolean {
    return this.selected().length >= (needs === 'several' ? 2 : 1);
  }

  /** The last key played, as the layers hear it; null before the first. */
  lastKey(): number | null {
    const { device, key } = this.live.player.lastNote;
    return device < 0 ? null : key + this.rig().keyShift[device];
  }

  private primary(): Layer | null {
    const { layerId } = this.session();
    return this.selected().find((layer) => layer.id === layerId) ?? this.selected().at(0) ?? null;
  }

  private atLastKey(side: 'low' | 'high'): void {
    const key = this.lastKey();
    const layer = this.primary();
    if (key !== null && layer) this.apply(endingAt(layer, side, key), 'keys changed');
  }

  private toNeighbour(side: 'low' | 'high'): void {
    const layer = this.primary();
    if (!layer) return;
    const others = this.editing.patch()?.layers.filter((other) => shareKeyboard(layer, other));
    if (others) this.apply(besideNeighbour(layer, side, others), 'keys changed');
  }

  private splitInTwo(): void {
    const layer = this.primary();
    const key = this.lastKey();
    if (!layer || key === null) return;
    this.cut(layer, splitAt(layer.keys, key) ?? []);
  }

  /** Cuts the keys that a layer has on the keyboard shown into parts as equal as can be. */
  private splitInto(count: number): void {
    const layer = this.primary();
    const keyboard = this.keyboard();
    if (!layer || !keyboard) return;
    const here = intersection(layer.keys, groundOf(keyboard).keys);
    if (here) this.cut(layer, splitEvenly({ ...layer.keys, ...here }, count));
  }

  private cut(layer: Layer, parts: readonly Range[]): void {
    const patchId = this.editing.patch()?.id;
    if (!patchId || parts.length < 2) return;
    const copyIds = parts.slice(1).map(() => crypto.randomUUID());
    this.store.dispatch(edits.layerSplit({ patchId, layerId: layer.id, parts, copyIds }));
    this.store.dispatch(session.layersSelected({ layerIds: [layer.id, ...copyIds] }));
  }

  private shareKeys(): void {
    const keyboard = this.keyboard();
    if (keyboard)
      this.apply(
        sharedOut(this.selected(), 'keys', groundOf(keyboard).keys),
        'keyboard shared out',
      );
  }

  private shareStrengths(): void {
    const all = { low: 1, high: 127 };
    this.apply(sharedOut(this.selected(), 'velocities', all), 'strengths shared out');
  }

  private apply(changes: RangeChanges, words: string): void {
    this.editing.changeLayers(changes, words);
  }
}
