import { computed, inject, Injectable, signal } from '@angular/core';
import { groundOf } from '@pentachord/core/coverage';
import {
  isKeyboard,
  newAccompanist,
  placedPattern,
  type Accompanist,
  type Pattern,
  type PatternCategory,
  type PatternShape,
  type PlacedPattern,
} from '@pentachord/core/model';
import { nextFreeKey } from '@pentachord/core/patterns';
import { Store } from '@ngrx/store';
import { PatchEditing } from './patch-editing';
import type { AppState } from '../reducers';
import { selectDevices, selectPatch, selectPatterns, selectWrittenPatch } from '../selectors';
import { StatusLine } from '../session/status-line';

/** The band of the patch on the desk: which accompanist and which of its patterns are chosen, and what is changed of them. */
@Injectable({ providedIn: 'root' })
export class BandEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(PatchEditing);
  private readonly status = inject(StatusLine);
  private readonly devices = this.store.selectSignal(selectDevices);
  readonly patch = this.store.selectSignal(selectPatch);
  /** Without what a cue moves, which is the cue’s. */
  private readonly written = this.store.selectSignal(selectWrittenPatch);
  readonly patterns = this.store.selectSignal(selectPatterns);
  readonly accompanists = computed(() => this.written()?.accompanists ?? []);
  readonly bandKeys = computed(() => this.written()?.bandKeys ?? []);

  private readonly chosenId = signal<string | null>(null);
  private readonly placedId = signal<string | null>(null);
  readonly chosen = computed(() => {
    const id = this.chosenId();
    return this.accompanists().find((one) => one.id === id) ?? this.accompanists().at(0) ?? null;
  });
  readonly placed = computed(() => {
    const patterns = this.chosen()?.patterns ?? [];
    const id = this.placedId();
    return patterns.find((one) => one.id === id) ?? patterns.at(0) ?? null;
  });
  readonly pattern = computed(
    (): Pattern | null => this.patterns().get(this.placed()?.patternId ?? '') ?? null,
  );
  /** The keyboard at a place, as it is heard there. */
  readonly board = computed(() => {
    const place = this.chosen()?.place ?? 'keys2';
    const boards = this.devices().filter(isKeyboard);
    return (
      boards.find((board) => board.place === place || board.alsoAt.includes(place)) ??
      boards.at(-1) ??
      null
    );
  });

  choose(accompanistId: string, placedId?: string): void {
    if (placedId !== undefined || accompanistId !== this.chosen()?.id)
      this.placedId.set(placedId ?? null);
    this.chosenId.set(accompanistId);
  }

  /** The accompanist that plays patterns of a shelf already: the chosen one if it does; null for none. */
  playerOf(category: PatternCategory): Accompanist | null {
    const plays = ({ patterns }: Accompanist) =>
      patterns.some(({ patternId }) => this.patterns().get(patternId)?.category === category);
    const chosen = this.chosen();
    return chosen && plays(chosen) ? chosen : (this.accompanists().find(plays) ?? null);
  }

  /** Adds an accompanist at the keyboard of the chosen one, playing the first layer. */
  add(): void {
    const { layers = [] } = this.patch() ?? {};
    const board = this.board();
    const count = this.accompanists().length;
    const one: Accompanist = {
      ...newAccompanist(crypto.randomUUID(), `Part ${count + 1}`, board?.place ?? 'keys1'),
      layerIds: layers.slice(0, 1).map(({ id }) => id),
    };
    this.put([...this.accompanists(), one], `${one.name} added`);
    this.choose(one.id);
  }

  remove({ id, name }: Accompanist): void {
    const left = this.accompanists().filter((one) => one.id !== id);
    this.put(left, `${name} removed`);
  }

  change(changes: Partial<Accompanist>, words: string, gesture?: string): void {
    const chosen = this.chosen();
    if (!chosen) return;
    const changed = this.accompanists().map((one) =>
      one.id === chosen.id ? { ...one, ...changes } : one,
    );
    this.put(changed, words, gesture);
  }

  /** Puts a pattern on the next key of the chosen accompanist that is free. */
  place({ id, name }: Pattern): void {
    const chosen = this.chosen();
    const board = this.board();
    if (!chosen || !board) return;
    const key = nextFreeKey(chosen, this.accompanists(), this.bandKeys(), groundOf(board).keys);
    if (key === null) {
      this.status.say(`No key of ${board.name} is free: ${name} was not taken.`);
      return;
    }
    const placed = placedPattern(crypto.randomUUID(), id, key);
    this.change({ patterns: [...chosen.patterns, placed] }, `${name} put on a key`);
    this.choose(chosen.id, placed.id);
  }

  changePlaced(changes: Partial<PlacedPattern>, words: string, gesture?: string): void {
    const chosen = this.chosen();
    const placed = this.placed();
    if (!chosen || !placed) return;
    const patterns = chosen.patterns.map((one) =>
      one.id === placed.id ? { ...one, ...changes } : one,
    );
    this.change({ patterns }, words, gesture);
  }

  shape(changes: Partial<PatternShape>, words: string, gesture?: string): void {
    const placed = this.placed();
    if (placed) this.changePlaced({ shape: { ...placed.shape, ...changes } }, words, gesture);
  }

  removePlaced(): void {
    const chosen = this.chosen();
    const placed = this.placed();
    if (!chosen || !placed) return;
    const patterns = chosen.patterns.filter(({ id }) => id !== placed.id);
    this.change({ patterns }, 'pattern taken off its key');
  }

  private put(accompanists: Accompanist[], words: string, gesture?: string): void {
    this.editing.changeBand({ accompanists, bandKeys: [...this.bandKeys()] }, words, gesture);
  }
}
