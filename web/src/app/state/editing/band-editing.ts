import { computed, inject, Injectable, signal } from '@angular/core';
import {
  bandFor,
  isKeyboard,
  keptBandOf,
  MOST_BAND_KEYS,
  MOST_PLACED,
  partsOfPlace,
  placeInWords,
  newAccompanist,
  placedPattern,
  type Accompanist,
  type BandKey,
  type KeptBand,
  type SoundCategory,
  type Pattern,
  type PatternCategory,
  type PatternShape,
  type PlacedPattern,
} from '@pentachord/core/model';
import { nextFreeKey, startersAt, withOtherPatterns } from '@pentachord/core/patterns';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { PatchEditing } from './patch-editing';
import type { AppState } from '../reducers';
import {
  selectDevices,
  selectMiddleC,
  selectPatch,
  selectPatterns,
  selectSounds,
  selectWrittenPatch,
} from '../selectors';
import { StatusLine } from '../session/status-line';

/** The band of the patch on the desk: which accompanist and which of its patterns are chosen, and what is changed of them. */
@Injectable({ providedIn: 'root' })
export class BandEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(PatchEditing);
  private readonly status = inject(StatusLine);
  readonly devices = this.store.selectSignal(selectDevices);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly sounds = this.store.selectSignal(selectSounds);
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

  /** Puts a pattern on a key, pad or button of the chosen accompanist; on the next one that is free where none is said. */
  place({ id, name }: Pattern, on?: number): void {
    const chosen = this.chosen();
    if (!chosen) return;
    const key = on ?? this.freeStarter();
    if (key === null || chosen.patterns.length >= MOST_PLACED) {
      const where = placeInWords(chosen.place);
      this.status.say(`Nothing is free at the ${where}: ${name} was not taken.`);
      return;
    }
    const placed = placedPattern(crypto.randomUUID(), id, key);
    this.change({ patterns: [...chosen.patterns, placed] }, `${name} put on a key`);
    this.choose(chosen.id, placed.id);
    this.status.say(`${name} is on ${this.starterName(chosen, key)} of ${chosen.name}.`);
  }

  /** The next key, pad or button of the chosen accompanist that starts nothing; null for none. */
  freeStarter(): number | null {
    const chosen = this.chosen();
    if (!chosen) return null;
    return nextFreeKey(chosen, this.accompanists(), this.bandKeys(), this.startersOf(chosen));
  }

  /** Moves a pattern to another key. */
  moveTo(placedId: string, key: number): void {
    const owner = this.accompanists().find(({ patterns }) =>
      patterns.some(({ id }) => id === placedId),
    );
    if (!owner) return;
    this.choose(owner.id, placedId);
    this.changePlaced({ key }, 'pattern moved to another key');
  }

  /** Numbers of what can start patterns at an accompanist’s place. */
  startersOf({ place, starters }: Pick<Accompanist, 'place' | 'starters'>): readonly number[] {
    const device = this.devices().find((one) => one.place === place || one.alsoAt.includes(place));
    return device ? startersAt(device, starters) : [];
  }

  /** What a key, pad or button is called: `C♯3`, `pad 4`, `CC 20`. */
  starterName({ place, starters }: Pick<Accompanist, 'place' | 'starters'>, key: number): string {
    const kind = partsOfPlace(place).kind;
    if (starters === 'controllers') return `CC ${key}`;
    const at = kind === 'pads' ? this.startersOf({ place, starters }).indexOf(key) : -1;
    return at >= 0 ? `pad ${at + 1}` : noteName(key, this.middleC());
  }

  /** Adds a key for all of them; one that has all begin starts the first pattern of each. */
  addBandKey(does: BandKey['does']): void {
    const place = this.board()?.place;
    const { length } = this.bandKeys();
    if (!place || length >= MOST_BAND_KEYS) return;
    const like = { id: '', place, starters: 'notes', patterns: [], stopKey: null } as const;
    const key = nextFreeKey(
      { ...like, patterns: this.chosen()?.patterns ?? [] },
      this.accompanists(),
      this.bandKeys(),
      this.startersOf(like),
    );
    if (key === null) return;
    const firsts = this.accompanists().flatMap(({ id, patterns }) =>
      patterns.slice(0, 1).map((placed): [string, string] => [id, placed.id]),
    );
    const added: BandKey = {
      ...{ id: crypto.randomUUID(), does, place, starters: 'notes', key },
      starts: does === 'start' ? Object.fromEntries(firsts) : {},
    };
    this.putBandKeys([...this.bandKeys(), added], 'key for all added');
  }

  changeBandKey(id: string, changes: Partial<BandKey>, gesture?: string): void {
    const changed = this.bandKeys().map((one) => (one.id === id ? { ...one, ...changes } : one));
    this.putBandKeys(changed, 'key for all changed', gesture);
  }

  removeBandKey(id: string): void {
    this.putBandKeys(
      this.bandKeys().filter((one) => one.id !== id),
      'key for all removed',
    );
  }

  /** The same keys with other patterns of a shelf; of all where it is null. */
  exchange(category: PatternCategory | null): void {
    const others = withOtherPatterns(this.accompanists(), this.patterns(), category);
    this.put(others, 'other patterns on the same keys');
  }

  /** Takes a kept band instead of this one, played by the layers that are here. */
  take(kept: KeptBand): void {
    const patch = this.written();
    if (!patch) return;
    const layers = patch.layers.map(({ id, name, soundId }) => ({
      ...{ id, name },
      category: this.categoryOf(soundId),
    }));
    // Patterns that were removed since are not there to be taken.
    const accompanists = kept.accompanists.map((one) => ({
      ...one,
      patterns: one.patterns.filter(({ patternId }) => this.patterns().has(patternId)),
    }));
    const there = { ...kept, accompanists };
    const { controls, ...band } = bandFor(there, layers, () => crypto.randomUUID());
    const lost = band.accompanists.filter(
      ({ layerIds }, at) => layerIds.length < kept.accompanists[at].layerIds.length,
    );
    this.editing.changeBand(band, 'band taken', undefined, controls);
    if (lost.length > 0)
      this.status.say(
        `Give ${lost.map(({ name }) => name).join(', ')} a layer to play: none here is like theirs.`,
      );
  }

  /** The band as it is, to be kept; null where there is none. */
  kept(): KeptBand | null {
    const patch = this.written();
    if (!patch || patch.accompanists.length === 0) return null;
    return keptBandOf(patch, (soundId) => this.categoryOf(soundId));
  }

  private categoryOf(soundId: string): SoundCategory | null {
    const used = this.written()?.sounds.find(({ id }) => id === soundId);
    return this.sounds().get(used?.librarySoundId ?? '')?.category ?? null;
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

  private putBandKeys(bandKeys: BandKey[], words: string, gesture?: string): void {
    const accompanists = [...this.accompanists()];
    this.editing.changeBand({ accompanists, bandKeys }, words, gesture);
  }

  private put(accompanists: Accompanist[], words: string, gesture?: string): void {
    this.editing.changeBand({ accompanists, bandKeys: [...this.bandKeys()] }, words, gesture);
  }
}
