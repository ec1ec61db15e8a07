import { inject, Injectable } from '@angular/core';
import {
  besideNeighbour,
  endingAt,
  groundOf,
  keysInWords,
  madeToMeet,
  movingSplit,
  overlapsCrossfaded,
  shareKeyboard,
  sharedOut,
  type RangeChanges,
} from '@pentachord/core/coverage';
import type { Layer } from '@pentachord/core/model';
import { intersection, splitAt, splitEvenly, type Axis, type Range } from '@pentachord/core/range';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import { selectKeyboard, selectMiddleC, selectRig } from '../state/selectors';
import { LayerSelection } from '../state/session/layer-selection';
import { ArrangedLayers } from './arranged-layers';
import { StatusLine } from '../state/session/status-line';

const NO_KEY = 'No key was played yet: strike one first.';
const ALL_STRENGTHS = { low: 1, high: 127 };
const WORDS = {
  keys: { shared: 'keyboard shared out', met: 'keys made to meet', crossed: 'keys crossfaded' },
  velocities: {
    shared: 'velocities shared out',
    met: 'velocities made to meet',
    crossed: 'velocities crossfaded',
  },
};

/**
 * Making ranges of the layers that are meant: at the last key played, beside a neighbour,
 * shared out, made to meet, crossfaded.
 */
@Injectable({ providedIn: 'root' })
export class RangeActions {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly editing = inject(PatchEditing);
  private readonly selection = inject(LayerSelection);
  private readonly arranged = inject(ArrangedLayers);
  private readonly status = inject(StatusLine);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly keyboard = this.store.selectSignal(selectKeyboard);
  private readonly rig = this.store.selectSignal(selectRig);

  /** The last key played, as the layers hear it; null before the first. */
  lastKey(): number | null {
    const { device, key } = this.live.player.lastNote;
    return device < 0 ? null : key + this.rig().keyShift[device];
  }

  /** Puts an end of the primary layer at the last key played. */
  atLastKey(side: 'low' | 'high'): void {
    const key = this.lastKey();
    const layer = this.primary();
    if (key === null) this.status.say(NO_KEY);
    else if (layer) {
      this.apply(endingAt(layer, side, key), 'keys changed');
      this.sayKeys(layer);
    }
  }

  /** Puts an end of the primary layer beside its neighbour. */
  toNeighbour(side: 'low' | 'high'): void {
    const layer = this.primary();
    const others = this.editing.patch()?.layers.filter((o) => layer && shareKeyboard(layer, o));
    if (!layer || !others) return;
    this.apply(besideNeighbour(layer, side, others), 'keys changed');
    this.sayKeys(layer);
  }

  /** Cuts the primary layer in two at the last key played. */
  splitInTwo(): void {
    const layer = this.primary();
    const key = this.lastKey();
    if (key === null) this.status.say(NO_KEY);
    else if (layer) this.cut(layer, splitAt(layer.keys, key) ?? []);
  }

  /** Cuts the keys that the primary layer has on the keyboard shown into parts as equal as can be. */
  splitInto(count: number): void {
    const layer = this.primary();
    const keyboard = this.keyboard();
    if (!layer || !keyboard) return;
    const here = intersection(layer.keys, groundOf(keyboard).keys);
    if (here) this.cut(layer, splitEvenly({ ...layer.keys, ...here }, count));
  }

  /** Shares the keyboard shown, or all strengths, out among the selected layers. */
  shareOut(axis: Axis): void {
    const keyboard = this.keyboard();
    const over = axis === 'velocities' ? ALL_STRENGTHS : keyboard && groundOf(keyboard).keys;
    if (over) this.applyAndSay(sharedOut(this.arranged.all(), axis, over), WORDS[axis].shared);
  }

  /** Closes gaps between the selected layers and takes overlaps away. */
  makeMeet(axis: Axis): void {
    this.applyAndSay(madeToMeet(this.arranged.all(), axis), WORDS[axis].met);
  }

  /** Turns overlaps of the selected layers into crossfades. */
  crossfade(axis: Axis): void {
    this.applyAndSay(overlapsCrossfaded(this.arranged.all(), axis), WORDS[axis].crossed);
  }

  /** Moves the split beside the primary layer by some keys, both sides together. */
  moveSplit(by: number): void {
    const patch = this.editing.patch();
    const layerId = this.selection.primary();
    const changes = patch && layerId ? movingSplit(patch, layerId, by) : null;
    if (changes) this.editing.changeLayers(changes, 'split moved', `split ${layerId}`);
  }

  private primary(): Layer | null {
    const layers = this.selection.layers();
    const id = this.selection.primary();
    return layers.find((layer) => layer.id === id) ?? layers.at(0) ?? null;
  }

  private cut(layer: Layer, parts: readonly Range[]): void {
    if (parts.length < 2) {
      this.status.say(`${layer.name} stays whole: there is nothing to cut there.`);
      return;
    }
    const copyIds = this.editing.split(layer.id, parts);
    this.selection.set([layer.id, ...copyIds]);
    this.status.say(`${layer.name} is cut in ${parts.length} parts.`);
  }

  private apply(changes: RangeChanges, words: string): void {
    this.editing.changeLayers(changes, words);
  }

  private applyAndSay(changes: RangeChanges, words: string): void {
    const names = this.arranged.all().flatMap(({ id, name }) => (id in changes ? [name] : []));
    this.apply(changes, words);
    this.status.say(
      names.length === 0 ? 'Nothing had to be changed.' : `${names.join(', ')}: ${words}.`,
    );
  }

  /** Which keys a layer plays now, in words. */
  private sayKeys({ id, name }: Layer): void {
    const keys = this.editing.patch()?.layers.find((layer) => layer.id === id)?.keys;
    if (keys) this.status.say(`${name} plays ${keysInWords(keys, this.middleC())} now.`);
  }
}
