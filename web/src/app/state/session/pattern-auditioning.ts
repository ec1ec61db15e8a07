import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { placedPattern, type Pattern } from '@pentachord/core/model';
import { readyPattern } from '@pentachord/core/patterns';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { BandEditing } from '../editing/band-editing';
import type { AppState } from '../reducers';
import { selectPatch, selectPatchSong, selectPatterns } from '../selectors';

/** Octaves by which a pattern can be tried higher or lower. */
const MOST_OCTAVES = 4;

/**
 * Patterns tried out before they are taken: at the show’s tempo, in the song’s key, with the layers of the accompanist they would
 * go to. Several are heard together; what is mended of them meanwhile is heard at once.
 */
@Injectable({ providedIn: 'root' })
export class PatternAuditioning {
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly band = inject(BandEditing);
  private readonly patterns = this.store.selectSignal(selectPatterns);
  private readonly patch = this.store.selectSignal(selectPatch);
  private readonly song = this.store.selectSignal(selectPatchSong);
  /** Ids of those that are heard, with the octaves by which each is moved. */
  private readonly heardNow = signal<ReadonlyMap<string, number>>(new Map());
  readonly heard = computed((): ReadonlySet<string> => new Set(this.heardNow().keys()));
  /** Octaves by which what is tried out next is moved. */
  readonly octaves = signal(0);
  /** The layer that it is heard with; empty for those of the accompanist. */
  readonly layerId = signal('');
  /** The layers that are heard, by id. */
  readonly layerIds = computed((): ReadonlySet<string> => {
    const { layers = [] } = this.patch() ?? {};
    const wanted = layers.find(({ id }) => id === this.layerId());
    if (wanted) return new Set([wanted.id]);
    const own = this.band.chosen()?.layerIds ?? [];
    return new Set(own.length > 0 ? own : layers.slice(0, 1).map(({ id }) => id));
  });

  constructor() {
    effect(() => {
      const { patterns, layerIds } = this;
      const known = patterns();
      layerIds();
      const sounding = this.song()?.sounding;
      for (const [id, octaves] of this.heardNow()) {
        const pattern = known.get(id);
        if (pattern && sounding) untracked(() => this.play(pattern, octaves));
      }
    });
    // Another patch ends what was heard in the one before.
    const patchId = computed(() => this.patch()?.id);
    effect(() => {
      patchId();
      untracked(() => this.stop());
    });
  }

  /** Has it heard from the next beat on, or ends it. */
  toggle(pattern: Pattern): void {
    if (this.heardNow().has(pattern.id)) {
      this.stop(pattern.id);
      return;
    }
    const octaves = this.octaves();
    this.play(pattern, octaves);
    this.heardNow.update((heard) => new Map(heard).set(pattern.id, octaves));
  }

  /** Ends one, or all of them. */
  stop(id?: string): void {
    this.live.band.auditioned.stop(id);
    this.heardNow.update((heard) =>
      id === undefined ? new Map() : new Map([...heard].filter(([one]) => one !== id)),
    );
  }

  /** Notices what something else has ended, such as all notes off; to be asked once a frame. */
  look(): void {
    for (const id of this.heardNow().keys()) if (this.placeOf(id) === null) this.stop(id);
  }

  /** Moves what is tried out by an octave, what is heard too. */
  shift(by: number): void {
    const within = (octaves: number) =>
      Math.min(MOST_OCTAVES, Math.max(-MOST_OCTAVES, octaves + by));
    this.octaves.update(within);
    this.heardNow.update(
      (heard) => new Map([...heard].map(([id, octaves]) => [id, within(octaves)])),
    );
  }

  /** How far a pattern is in its round, 0 … 1; null while it is not heard. */
  placeOf(id: string): number | null {
    return this.live.band.auditioned.placeOf(id);
  }

  private play(pattern: Pattern, octaves: number): void {
    const sounding = this.song()?.sounding;
    if (!sounding) return;
    const placed = placedPattern(pattern.id, pattern.id, 0);
    const shape = { ...placed.shape, transpose: octaves * 12 };
    const transpose = pattern.key ? (this.band.chosen()?.transpose ?? 0) : 0;
    const ready = readyPattern({ ...placed, shape }, pattern, { transpose }, sounding);
    const layerIds = this.layerIds();
    this.live.onTheClock(() => this.live.band.auditioned.hear(ready, layerIds));
  }
}
